// Included once for each level of processor, with LEVEL(name) and LEAF defined: the arithmetic on sixteen lanes.

LEAF i16x LEVEL(load)(const int16_t *p) {
    i16x v;
    memcpy(&v, p, sizeof v);
    return v;
}

LEAF void LEVEL(store)(int16_t *p, i16x v) { memcpy(p, &v, sizeof v); }

LEAF f32x LEVEL(load_real)(const float *p) {
    f32x v;
    memcpy(&v, p, sizeof v);
    return v;
}

LEAF void LEVEL(store_real)(float *p, f32x v) { memcpy(p, &v, sizeof v); }

// (a * b + 16384) >> 15: the product of a value and a share of 32768. Never asked for -32768 times itself.
LEAF i16x LEVEL(share)(i16x a, i16x b) {
#if defined(__x86_64__) && WIDTH >= 32
    return (i16x)_mm256_mulhrs_epi16((__m256i)a, (__m256i)b);
#elif defined(__x86_64__)
    __m128i x[2], y[2], z[2];
    memcpy(x, &a, sizeof x);
    memcpy(y, &b, sizeof y);
    z[0] = _mm_mulhrs_epi16(x[0], y[0]);
    z[1] = _mm_mulhrs_epi16(x[1], y[1]);
    i16x out;
    memcpy(&out, z, sizeof z);
    return out;
#elif defined(__aarch64__)
    int16x8_t x[2], y[2], z[2];
    memcpy(x, &a, sizeof x);
    memcpy(y, &b, sizeof y);
    z[0] = vqrdmulhq_s16(x[0], y[0]);
    z[1] = vqrdmulhq_s16(x[1], y[1]);
    i16x out;
    memcpy(&out, z, sizeof z);
    return out;
#else
    i16x out;
    for (int i = 0; i < LANES; i++) out[i] = (int16_t)(((int32_t)a[i] * b[i] + 16384) >> 15);
    return out;
#endif
}

LEAF i16x LEVEL(select)(i16x mask, i16x yes, i16x no) {
#if defined(__x86_64__) && WIDTH == 32
    return (i16x)_mm256_blendv_epi8((__m256i)no, (__m256i)yes, (__m256i)mask);
#else
    return (yes & mask) | (no & ~mask);
#endif
}

LEAF i16x LEVEL(smaller)(i16x a, i16x b) { return LEVEL(select)((i16x)(a < b), a, b); }

LEAF i16x LEVEL(larger)(i16x a, i16x b) { return LEVEL(select)((i16x)(a > b), a, b); }

LEAF i16x LEVEL(every)(int value) {
    const i16x none = {0};
    return none + (int16_t)value;
}

// Cubic convolution (R. Keys, 1981, a = -1/2) between samples at -1, 0, 1 and 2; t: 0 ... 32767.
LEAF i16x LEVEL(cubic)(i16x s0, i16x s1, i16x s2, i16x s3, i16x t) {
    i16x d = s2 - s1, c1 = (s2 - s0) >> 1;
    i16x c3 = ((s3 - s0 - d) >> 1) - d, c2 = d - c1 - c3;
    i16x r = c2 + LEVEL(share)(c3, t);
    r = c1 + LEVEL(share)(r, t);
    return s1 + LEVEL(share)(r, t);
}

LEAF f32x LEVEL(cubic_real)(f32x s0, f32x s1, f32x s2, f32x s3, f32x t) {
    f32x d = s2 - s1, c1 = (s2 - s0) * 0.5f;
    f32x c3 = (s3 - s0 - d) * 0.5f - d, c2 = d - c1 - c3;
    return s1 + (c1 + (c2 + c3 * t) * t) * t;
}

#include "places.h"

#define REAL 0
#include "mean.h"
#undef REAL
#define REAL 1
#include "mean.h"
#undef REAL
