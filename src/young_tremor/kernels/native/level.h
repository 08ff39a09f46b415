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

// Sixteen sums of products in 32 bits, in whatever order the processor pairs its lanes.
typedef struct {
#if defined(__x86_64__) && WIDTH >= 32
    __m256i low, high;
#elif defined(__x86_64__)
    __m128i low[2], high[2];
#else
    i32x all;
#endif
} LEVEL(Sums);

// Add a * first + b * second, `both` being the two shares in one word.
LEAF void LEVEL(add_products)(LEVEL(Sums) *s, i16x a, i16x b, int32_t both) {
#if defined(__x86_64__) && WIDTH >= 32
    __m256i w = _mm256_set1_epi32(both);
    s->low = _mm256_add_epi32(s->low, _mm256_madd_epi16(_mm256_unpacklo_epi16((__m256i)a, (__m256i)b), w));
    s->high = _mm256_add_epi32(s->high, _mm256_madd_epi16(_mm256_unpackhi_epi16((__m256i)a, (__m256i)b), w));
#elif defined(__x86_64__)
    __m128i x[2], y[2], w = _mm_set1_epi32(both);
    memcpy(x, &a, sizeof x);
    memcpy(y, &b, sizeof y);
    for (int k = 0; k < 2; k++) {
        s->low[k] = _mm_add_epi32(s->low[k], _mm_madd_epi16(_mm_unpacklo_epi16(x[k], y[k]), w));
        s->high[k] = _mm_add_epi32(s->high[k], _mm_madd_epi16(_mm_unpackhi_epi16(x[k], y[k]), w));
    }
#else
    s->all += __builtin_convertvector(a, i32x) * (int32_t)(int16_t)both + __builtin_convertvector(b, i32x) * (both >> 16);
#endif
}

// The sums, rounded, as shares of 32768.
LEAF i16x LEVEL(rounded)(const LEVEL(Sums) *s) {
#if defined(__x86_64__) && WIDTH >= 32
    __m256i half = _mm256_set1_epi32(16384);
    __m256i low = _mm256_srai_epi32(_mm256_add_epi32(s->low, half), 15);
    __m256i high = _mm256_srai_epi32(_mm256_add_epi32(s->high, half), 15);
    return (i16x)_mm256_packs_epi32(low, high);
#elif defined(__x86_64__)
    __m128i z[2], half = _mm_set1_epi32(16384);
    for (int k = 0; k < 2; k++)
        z[k] = _mm_packs_epi32(_mm_srai_epi32(_mm_add_epi32(s->low[k], half), 15),
                               _mm_srai_epi32(_mm_add_epi32(s->high[k], half), 15));
    i16x out;
    memcpy(&out, z, sizeof z);
    return out;
#else
    return __builtin_convertvector((s->all + 16384) >> 15, i16x);
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

// below = above + below * (1 - alpha), in place; alpha: 8192 is one.
FN void LEVEL(over)(int16_t *below, const int16_t *above, const int16_t *alpha, int count) {
    i16x one = LEVEL(every)(8192), none = LEVEL(every)(0), most = LEVEL(every)(32767);
    for (int x = 0; x < count; x += LANES) {
        int16_t b[LANES], a[LANES], c[LANES];
        int left = count - x, whole = left >= LANES;
        if (!whole) {
            memcpy(b, below + x, left * 2);
            memcpy(a, above + x, left * 2);
            memcpy(c, alpha + x, left * 2);
        }
        i16x cover = LEVEL(smaller)(LEVEL(larger)(LEVEL(load)(whole ? alpha + x : c), none), one);
        i16x rest = LEVEL(select)((i16x)(cover == one), none, most - (cover << 2));
        i16x old = LEVEL(load)(whole ? below + x : b);
        i16x mixed = LEVEL(select)((i16x)(cover == none), old, LEVEL(share)(old, rest));
        i16x made = LEVEL(load)(whole ? above + x : a) + mixed;
        if (whole) LEVEL(store)(below + x, made);
        else memcpy(below + x, &made, left * 2);
    }
}

// total += (value - total) * share, rounded.
FN void LEVEL(mix)(int16_t *total, const int16_t *value, int share, int count) {
    i16x w = LEVEL(every)(share);
    int x = 0;
    for (; x + LANES <= count; x += LANES) {
        i16x old = LEVEL(load)(total + x);
        LEVEL(store)(total + x, old + LEVEL(share)(LEVEL(load)(value + x) - old, w));
    }
    for (; x < count; x++)
        total[x] = (int16_t)(total[x] + (int16_t)(((int32_t)(int16_t)(value[x] - total[x]) * share + 16384) >> 15));
}

#include "places.h"

#define REAL 0
#include "mean.h"
#undef REAL
#define REAL 1
#include "mean.h"
#undef REAL
