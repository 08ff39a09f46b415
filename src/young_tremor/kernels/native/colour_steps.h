// Included once for each level of processor: colours.h in steps over blocks of pixels, so that each step is done on many
// lanes. Sums are taken in the order of the definition.

LEAF float LEVEL(root4)(float value) { return sqrtf(sqrtf(value > 0 ? value : 0)); }

LEAF float LEVEL(weighed)(const float *w, float r, float g, float b) { return w[0] * r + w[1] * g + w[2] * b; }

// Entries of a table by values times a scale; what is no number counts as 0.
LEAF void LEVEL(look_up)(const float *restrict table, const float *values, float scale, float *out) {
    int32_t entries[COLOUR_BLOCK];
    for (int n = 0; n < COLOUR_BLOCK; n++) {
        float place = values[n] * scale;
        place = place > 0 ? place : 0;
        place = place < COLOUR_STEPS - 1 ? place : COLOUR_STEPS - 1;
        entries[n] = (int32_t)rintf(place);
    }
    for (int n = 0; n < COLOUR_BLOCK; n++) out[n] = table[entries[n]];
}

LEAF void LEVEL(multiply)(float light[3][COLOUR_BLOCK], const float *gains) {
    for (int k = 0; k < 3; k++)
        for (int n = 0; n < COLOUR_BLOCK; n++) light[k][n] *= gains[n];
}

LEAF void LEVEL(times_luminance)(float light[3][COLOUR_BLOCK], const float *weights, const float *table, float scale) {
    float roots[COLOUR_BLOCK], gains[COLOUR_BLOCK];
    for (int n = 0; n < COLOUR_BLOCK; n++)
        roots[n] = LEVEL(root4)(LEVEL(weighed)(weights, light[0][n], light[1][n], light[2][n]));
    LEVEL(look_up)(table, roots, scale, gains);
    LEVEL(multiply)(light, gains);
}

FN void LEVEL(convert_block)(float light[3][COLOUR_BLOCK], const Colours *job) {
    float p[3][COLOUR_BLOCK], roots[COLOUR_BLOCK], gains[COLOUR_BLOCK];
    for (int k = 0; k < 3; k++) LEVEL(look_up)(job->decode, light[k], job->decode_scale, light[k]);
    if (job->system) LEVEL(times_luminance)(light, job->luminance, job->system, COLOUR_STEPS - 1);
    if (job->ratio) {
        for (int n = 0; n < COLOUR_BLOCK; n++) {
            float most = light[0][n] > light[1][n] ? light[0][n] : light[1][n];
            roots[n] = sqrtf(light[2][n] > most ? light[2][n] : most);
        }
        LEVEL(look_up)(job->ratio, roots, job->ratio_scale, gains);
        LEVEL(multiply)(light, gains);
    }
    for (int k = 0; k < 3; k++)
        for (int n = 0; n < COLOUR_BLOCK; n++)
            p[k][n] = LEVEL(weighed)(job->matrix + 3 * k, light[0][n], light[1][n], light[2][n]);
    int outside = 0;
    float low[COLOUR_BLOCK], high[COLOUR_BLOCK];
    for (int n = 0; n < COLOUR_BLOCK; n++) {
        float least = p[0][n] < p[1][n] ? p[0][n] : p[1][n], most = p[0][n] > p[1][n] ? p[0][n] : p[1][n];
        low[n] = p[2][n] < least ? p[2][n] : least;
        high[n] = p[2][n] > most ? p[2][n] : most;
        outside |= low[n] < job->low || high[n] > job->high;
    }
    for (int n = 0; outside && n < COLOUR_BLOCK; n++)
        if (low[n] < job->low || high[n] > job->high) {
            float pixel[3] = {p[0][n], p[1][n], p[2][n]};
            drawn_to_grey(pixel, low[n], high[n], job);
            for (int k = 0; k < 3; k++) p[k][n] = pixel[k];
        }
    if (job->back) LEVEL(times_luminance)(p, job->weights, job->back, job->back_scale);
    for (int k = 0; k < 3; k++) {
        for (int n = 0; n < COLOUR_BLOCK; n++) roots[n] = LEVEL(root4)(p[k][n]);
        LEVEL(look_up)(job->encode, roots, job->encode_scale, light[k]);
    }
}

FN void LEVEL(convert_colours)(float *pixels, int64_t count, const Colours *job) {
    float block[3][COLOUR_BLOCK] = {{0}};
    for (int64_t first = 0; first < count; first += COLOUR_BLOCK, pixels += 3 * COLOUR_BLOCK) {
        int many = count - first < COLOUR_BLOCK ? (int)(count - first) : COLOUR_BLOCK;
        for (int n = 0; n < many; n++)
            for (int k = 0; k < 3; k++) block[k][n] = pixels[3 * n + k];
        LEVEL(convert_block)(block, job);
        for (int n = 0; n < many; n++)
            for (int k = 0; k < 3; k++) pixels[3 * n + k] = block[k][n];
    }
}
