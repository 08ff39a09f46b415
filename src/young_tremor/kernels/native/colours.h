// Colours by tables of light: values of one space as values of another, pixel by pixel.

typedef struct {
    const float *decode, *system, *ratio, *back, *encode;  // tables of COLOUR_STEPS entries; NULL where there is no such step
    float decode_scale, ratio_scale, encode_scale, back_scale;  // to a place in each
    float luminance[3];      // of the scene's red, green and blue
    float matrix[9];         // to the other primaries
    float weights[3];        // luminance of those
    float top, low, high;    // the most light; below and above what a colour is drawn to grey
} Colours;

enum { COLOUR_STEPS = 1 << 16 };

static inline __attribute__((always_inline)) float looked_up(const float *table, float value, float scale) {
    float place = value * scale;
    if (!(place > 0)) place = 0;
    if (place > COLOUR_STEPS - 1) place = COLOUR_STEPS - 1;
    return table[lrintf(place)];
}

static inline __attribute__((always_inline)) float weighed(const float *w, const float *p) {
    return w[0] * p[0] + w[1] * p[1] + w[2] * p[2];
}

static inline __attribute__((always_inline)) float root4(float value) { return sqrtf(sqrtf(value > 0 ? value : 0)); }

// In double precision: what is drawn to the edge is to lie on it, where values near black are steep.
static void drawn_to_grey(float *p, float low, float high, const Colours *job) {
    const float *w = job->weights;
    double grey = (double)w[0] * p[0] + (double)w[1] * p[1] + (double)w[2] * p[2], keep = 1;
    if (!(grey > 0)) grey = 0;
    if (grey > job->top) grey = job->top;
    if (low < 0) keep = grey / (grey - low);
    if (high > job->top) {
        double share = (job->top - grey) / (high - grey);
        if (share < keep) keep = share;
    }
    for (int k = 0; k < 3; k++) p[k] = (float)(grey + (p[k] - grey) * keep);
}

static void convert_colours(float *pixels, int64_t count, const Colours *job) {
    for (int64_t n = 0; n < count; n++, pixels += 3) {
        float light[3], p[3];
        for (int k = 0; k < 3; k++) light[k] = looked_up(job->decode, pixels[k], job->decode_scale);
        if (job->system) {
            float gain = looked_up(job->system, root4(weighed(job->luminance, light)), COLOUR_STEPS - 1);
            for (int k = 0; k < 3; k++) light[k] *= gain;
        }
        if (job->ratio) {
            float most = light[0] > light[1] ? light[0] : light[1];
            if (light[2] > most) most = light[2];
            float gain = looked_up(job->ratio, sqrtf(most), job->ratio_scale);
            for (int k = 0; k < 3; k++) light[k] *= gain;
        }
        for (int k = 0; k < 3; k++) p[k] = weighed(job->matrix + 3 * k, light);
        float low = p[0] < p[1] ? p[0] : p[1], high = p[0] > p[1] ? p[0] : p[1];
        if (p[2] < low) low = p[2];
        if (p[2] > high) high = p[2];
        if (low < job->low || high > job->high) drawn_to_grey(p, low, high, job);
        if (job->back) {
            float gain = looked_up(job->back, root4(weighed(job->weights, p)), job->back_scale);
            for (int k = 0; k < 3; k++) p[k] *= gain;
        }
        for (int k = 0; k < 3; k++) pixels[k] = looked_up(job->encode, root4(p[k]), job->encode_scale);
    }
}
