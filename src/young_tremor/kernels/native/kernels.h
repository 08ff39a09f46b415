// What the library and its callers agree on. Every struct is mirrored in native.py.
#ifndef YOUNG_TREMOR_KERNELS_H
#define YOUNG_TREMOR_KERNELS_H

#include <stdint.h>

enum { KERNELS_VERSION = 6, MOST_PLANES = 5 };

// A plane that is read. Integer samples are shifted left by `fraction` bits while they are worked on.
typedef struct {
    const void *pixels;
    int64_t pitch;           // bytes from row to row
    int32_t width, height;
    int32_t sample;          // bytes a sample: 1, 2, or 4 for float
    int32_t fraction;        // bits of fraction in flight, unless worked on as float
    int32_t border;          // 0 hold, 1 mirror, 2 repeat, 3 empty
} Source;

// Where views look: source pixels (x, y) at nodes of a lattice, `spacing` (8 or 16) result pixels apart along rows
// and `drop` from row to row; straight in between.
typedef struct {
    const double *nodes;     // views, rows, columns, 2
    int32_t views, rows, columns;
    int32_t left, top;       // result pixel of the first node; left is a multiple of 16
    int32_t spacing, drop;
    const int32_t *weights;  // of each view, 32768 in all
} Views;

// Consecutive views whose sum is drawn out along ways, each tile of the frame along its own.
typedef struct {
    int32_t first, count;    // views
    int32_t across, down;    // tiles of the frame
    int32_t points;          // of each way
    int32_t smeared;         // whether the smear acts on it
    double ramp_in, ramp_out;  // shares of a way over which it grows at its start and fades at its end
    const double *ways;      // down, across, points, 2: result pixels; points = 1: not drawn out
} Trail;

// A part of a frame that is made.
typedef struct {
    void *pixels;
    int64_t pitch;
    int32_t left, top, width, height;  // in the frame
    int32_t frame_width, frame_height;
    int32_t sample;          // bytes a sample; 4: float
    int32_t top_value;       // largest value of integers
    int32_t raw;             // 1: int16 samples with their fraction, neither rounded nor cut
    int32_t dither;
} Target;

typedef struct {
    Source source;
    Views views;
    int32_t real;            // worked on as float: float samples, and integers of more than 10 bits
    int32_t trails;
    const Trail *trail;
    int32_t smear_points;
    const double *smear;     // points, 2: result pixels
    Target target;
    int32_t tiles_dense, tiles_gathered;  // written: how many views of tiles went either way
} Mean;

// A piece of a picture: planes of one size, premultiplied, alpha last, and where it lies in the frame. Its views count
// result pixels from there.
typedef struct {
    const void *planes[MOST_PLANES];
    Source source;           // what all planes have in common
    Views views;
    int32_t left, top, width, height;
    int32_t share;           // opacity: 32768 is one
    float part;              // the same for float samples
} Layer;

// Planes of one size that pieces are laid onto, alpha last; `left` and `top`: in the frame.
typedef struct {
    void *pixels[MOST_PLANES];
    int64_t pitch[MOST_PLANES];
    int32_t planes, left, top;
    int32_t real;
} Canvas;

#endif
