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

// Sums of products in 32 bits for the results of two blocks: of even ones and of odd ones where products come in pairs.
typedef struct {
#if defined(__x86_64__) && WIDTH == 64
    __m512i even, odd;
#elif defined(__x86_64__) && WIDTH == 32
    __m256i even[2], odd[2];
#elif defined(__x86_64__)
    __m128i even[4], odd[4];
#else
    i32x sum[2];
#endif
} LEVEL(Sums);

// Add p[x] * first + p[x + 1] * second to each result x, `both` being the two shares in one word.
LEAF void LEVEL(add_products)(LEVEL(Sums) *s, const int16_t *p, int32_t both) {
#if defined(__x86_64__) && WIDTH == 64
    __m512i w = _mm512_set1_epi32(both);
    s->even = _mm512_add_epi32(s->even, _mm512_madd_epi16(_mm512_loadu_si512((const void *)p), w));
    s->odd = _mm512_add_epi32(s->odd, _mm512_madd_epi16(_mm512_loadu_si512((const void *)(p + 1)), w));
#elif defined(__x86_64__) && WIDTH == 32
    __m256i w = _mm256_set1_epi32(both);
    for (int k = 0; k < 2; k++) {
        const void *even = p + 16 * k, *odd = p + 16 * k + 1;
        s->even[k] = _mm256_add_epi32(s->even[k], _mm256_madd_epi16(_mm256_loadu_si256(even), w));
        s->odd[k] = _mm256_add_epi32(s->odd[k], _mm256_madd_epi16(_mm256_loadu_si256(odd), w));
    }
#elif defined(__x86_64__)
    __m128i w = _mm_set1_epi32(both);
    for (int k = 0; k < 4; k++) {
        const void *even = p + 8 * k, *odd = p + 8 * k + 1;
        s->even[k] = _mm_add_epi32(s->even[k], _mm_madd_epi16(_mm_loadu_si128(even), w));
        s->odd[k] = _mm_add_epi32(s->odd[k], _mm_madd_epi16(_mm_loadu_si128(odd), w));
    }
#else
    for (int k = 0; k < 2; k++) {
        i32x first = __builtin_convertvector(LEVEL(load)(p + LANES * k), i32x);
        i32x second = __builtin_convertvector(LEVEL(load)(p + LANES * k + 1), i32x);
        s->sum[k] += first * (int32_t)(int16_t)both + second * (both >> 16);
    }
#endif
}

// The sums of one of the two blocks, rounded, as shares of 32768.
LEAF i16x LEVEL(rounded)(const LEVEL(Sums) *s, int block) {
    i16x out;
#if defined(__x86_64__) && WIDTH == 64
    __m512i half = _mm512_set1_epi32(16384), even = _mm512_srli_epi32(_mm512_add_epi32(s->even, half), 15);
    __m512i odd = _mm512_slli_epi32(_mm512_add_epi32(s->odd, half), 1);
    __m512i both = _mm512_mask_blend_epi16(0xaaaaaaaa, even, odd);
    out = (i16x)(block ? _mm512_extracti64x4_epi64(both, 1) : _mm512_castsi512_si256(both));
#elif defined(__x86_64__) && WIDTH == 32
    __m256i half = _mm256_set1_epi32(16384), even = _mm256_srli_epi32(_mm256_add_epi32(s->even[block], half), 15);
    __m256i odd = _mm256_slli_epi32(_mm256_add_epi32(s->odd[block], half), 1);
    out = (i16x)_mm256_blend_epi16(even, odd, 0xaa);
#elif defined(__x86_64__)
    __m128i both[2], half = _mm_set1_epi32(16384);
    for (int k = 0; k < 2; k++) {
        __m128i even = _mm_srli_epi32(_mm_add_epi32(s->even[2 * block + k], half), 15);
        __m128i odd = _mm_slli_epi32(_mm_add_epi32(s->odd[2 * block + k], half), 1);
        both[k] = _mm_blend_epi16(even, odd, 0xaa);
    }
    memcpy(&out, both, sizeof out);
#else
    out = __builtin_convertvector((s->sum[block] + 16384) >> 15, i16x);
#endif
    return out;
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
#define CUBIC(name, lanes, share) \
    LEAF lanes LEVEL(name)(lanes s0, lanes s1, lanes s2, lanes s3, lanes t) { \
        lanes d = s2 - s1, c1 = (s2 - s0) >> 1; \
        lanes c3 = ((s3 - s0 - d) >> 1) - d, c2 = d - c1 - c3; \
        lanes r = c2 + LEVEL(share)(c3, t); \
        r = c1 + LEVEL(share)(r, t); \
        return s1 + LEVEL(share)(r, t); \
    }
CUBIC(cubic, i16x, share)
#if WIDTH == 64
LEAF i16w LEVEL(share_of_two)(i16w a, i16w b) { return (i16w)_mm512_mulhrs_epi16((__m512i)a, (__m512i)b); }
CUBIC(cubic_of_two, i16w, share_of_two)
#endif
#undef CUBIC

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

// One row of a plane of half as many columns and rows, from two rows of the whole one: averaged in pairs, then a tent
// about every second sample of that. Before the first sample lies another one like it. `columns`: even.
FN void LEVEL(halve)(const int16_t *upper, const int16_t *lower, int columns, int16_t *out) {
    const int16_t *restrict a = upper, *restrict b = lower;
    int16_t *restrict to = out;
    for (int x = 0; x < columns / 2; x++) {
        // in 16 bits throughout, so that the compiler takes as many lanes as there are
        int16_t even = (int16_t)((int16_t)(a[2 * x] + b[2 * x]) >> 1);
        int16_t odd = (int16_t)((int16_t)(a[2 * x + 1] + b[2 * x + 1]) >> 1);
        int16_t left = x ? (int16_t)((int16_t)(a[2 * x - 1] + b[2 * x - 1]) >> 1) : even;
        int16_t about = (int16_t)((int16_t)(odd + left + 1) >> 1);
        to[x] = (int16_t)((int16_t)(even + about + 1) >> 1);
    }
}

#include "places.h"

#define REAL 0
#include "mean.h"
#undef REAL
#define REAL 1
#include "mean.h"
#undef REAL
