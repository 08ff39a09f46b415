// Young Tremor's kernels: planes looked at through an exposure. docs/kernels.md teaches the method;
// reference.py is the definition, number by number.
#include "kernels.h"
#include "geometry.h"
#include "simd.h"
#include "colours.h"

#define EXPORT __attribute__((visibility("default")))
#define LEAF FN inline __attribute__((always_inline))

#if defined(__x86_64__)
#define FN static __attribute__((target("ssse3,sse4.1,popcnt")))
#define WIDTH 16
#define LEVEL(name) name##_v2
#include "level.h"
#include "colour_steps.h"
#undef FN
#undef WIDTH
#undef LEVEL
#define FN static __attribute__((target("avx2,bmi,bmi2")))
#define WIDTH 32
#define LEVEL(name) name##_v3
#include "level.h"
#include "colour_steps.h"
#undef FN
#undef WIDTH
#undef LEVEL
#define FN static __attribute__((target("avx2,bmi,bmi2,avx512f,avx512bw,avx512vl,avx512dq")))
#define WIDTH 64
#define LEVEL(name) name##_v4
#include "level.h"
#include "colour_steps.h"
#undef FN
#undef WIDTH
#undef LEVEL

EXPORT int kernels_highest(void) {
    __builtin_cpu_init();
    if (__builtin_cpu_supports("avx512bw") && __builtin_cpu_supports("avx512vl") && __builtin_cpu_supports("avx512dq"))
        return 4;
    if (__builtin_cpu_supports("avx2") && __builtin_cpu_supports("bmi2")) return 3;
    return __builtin_cpu_supports("ssse3") && __builtin_cpu_supports("sse4.1") ? 2 : 0;
}

EXPORT int kernels_mean(Mean *job, int level) {
    int real = job->real;
    switch (level) {
        case 4: return real ? mean_real_v4(job) : mean_v4(job);
        case 3: return real ? mean_real_v3(job) : mean_v3(job);
        default: return real ? mean_real_v2(job) : mean_v2(job);
    }
}

EXPORT int kernels_lay(const Layer *layers, int count, int view, const Canvas *canvas, int level) {
    int real = canvas->real;
    switch (level) {
        case 4: return real ? lay_real_v4(layers, count, view, canvas) : lay_v4(layers, count, view, canvas);
        case 3: return real ? lay_real_v3(layers, count, view, canvas) : lay_v3(layers, count, view, canvas);
        default: return real ? lay_real_v2(layers, count, view, canvas) : lay_v2(layers, count, view, canvas);
    }
}

#define DISPATCH(name, with) \
    if (level >= 4) name##_v4 with; \
    else if (level == 3) name##_v3 with; \
    else name##_v2 with;
#else
#define FN static
#define WIDTH 16
#define LEVEL(name) name##_base
#include "level.h"
#include "colour_steps.h"

EXPORT int kernels_highest(void) { return 1; }

EXPORT int kernels_mean(Mean *job, int level) {
    (void)level;
    return job->real ? mean_real_base(job) : mean_base(job);
}

EXPORT int kernels_lay(const Layer *layers, int count, int view, const Canvas *canvas, int level) {
    (void)level;
    return canvas->real ? lay_real_base(layers, count, view, canvas) : lay_base(layers, count, view, canvas);
}

#define DISPATCH(name, with) \
    (void)level; \
    name##_base with;
#endif

EXPORT void kernels_over(int16_t *below, int64_t below_pitch, const int16_t *above, int64_t above_pitch, const int16_t *alpha,
                         int64_t alpha_pitch, int width, int height, int level) {
    for (int y = 0; y < height; y++, below += below_pitch, above += above_pitch, alpha += alpha_pitch) {
        DISPATCH(over, (below, above, alpha, width))
    }
}

EXPORT void kernels_mix(int16_t *total, int64_t total_pitch, const int16_t *value, int64_t value_pitch, int share,
                        int width, int height, int level) {
    for (int y = 0; y < height; y++, total += total_pitch, value += value_pitch) {
        DISPATCH(mix, (total, value, share, width))
    }
}

EXPORT void kernels_halve(const int16_t *plane, int64_t pitch, int16_t *out, int width, int height, int level) {
    for (int y = 0; y < height; y++, plane += 2 * pitch, out += width) {
        DISPATCH(halve, (plane, plane + pitch, 2 * width, out))
    }
}

EXPORT void kernels_colours(float *pixels, int64_t count, const Colours *job, int level) {
    DISPATCH(convert_colours, (pixels, count, job))
}

EXPORT int kernels_version(void) { return KERNELS_VERSION; }
