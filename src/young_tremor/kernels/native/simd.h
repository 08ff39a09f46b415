// Sixteen lanes, whatever the processor: the compiler splits them where its registers are narrower.
#ifndef YOUNG_TREMOR_SIMD_H
#define YOUNG_TREMOR_SIMD_H

#include <stdint.h>
#include <string.h>
#if defined(__x86_64__)
#include <immintrin.h>
#elif defined(__aarch64__)
#include <arm_neon.h>
#endif

enum { LANES = 16 };
typedef int16_t i16x __attribute__((vector_size(2 * LANES)));
typedef uint16_t u16x __attribute__((vector_size(2 * LANES)));
typedef int32_t i32h __attribute__((vector_size(2 * LANES)));  // pairs of lanes
typedef int32_t i32x __attribute__((vector_size(4 * LANES)));
typedef uint8_t u8x __attribute__((vector_size(LANES)));
typedef int16_t i16w __attribute__((vector_size(4 * LANES)));  // two blocks
typedef float f32x __attribute__((vector_size(4 * LANES)));

#endif
