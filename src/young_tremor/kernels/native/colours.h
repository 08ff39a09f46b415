// Colours by tables of light: values of one space as values of another, pixel by pixel.

typedef struct {
    const float *decode, *system, *ratio, *back, *encode;  // tables of COLOUR_STEPS entries; NULL where there is no such step
    float decode_scale, ratio_scale, encode_scale, back_scale;  // to a place in each
    float luminance[3];      // of the scene's red, green and blue
    float matrix[9];         // to the other primaries
    float weights[3];        // luminance of those
    float top, low, high;    // the most light; below and above what a colour is drawn to grey
} Colours;

enum { COLOUR_STEPS = 1 << 16, COLOUR_BLOCK = 128 };  // pixels that are worked on step by step, side by side

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
