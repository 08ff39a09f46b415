// Places, tiles and taps: double precision and whole numbers, the same for all levels of processor.
// Compile with -ffp-contract=off: NumPy's doubles are the definition.
#ifndef YOUNG_TREMOR_GEOMETRY_H
#define YOUNG_TREMOR_GEOMETRY_H

#include <math.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>

#include "kernels.h"

enum {
    LANE = 16,            // result pixels of a block
    TILE_WIDTH = 256,     // a frame is made tile by tile; which tile a pixel is in does not depend on the window
    TILE_HEIGHT = 128,
    LONG_WIDTH = 512,     // of tiles that are drawn out, which need room about them
    LONG_HEIGHT = 256,
    MOST_STEP = 7640,     // Q14: how far the step from lane to lane may be from one source pixel
    LEAST_STEP = 14300,   // the same where it is shorter than one, along rows of the source
    NARROW_STEP = 1091,   // up to which two samples do
    NARROW_BITS = 14,     // of the fraction of places: up to that step,
    WIDE_BITS = 13,       // up to the most,
    FAR_BITS = 12,        // and down to the least
    LEAD = 32,            // samples that may be loaded before those that are used
    MOST_ROWS = 1024,     // source rows of a block
    MOST_TAPS = 16384,
    FINE = 4,             // points of a way for each pixel of its length
};

static const double LEAST_TAP = 0.001;  // of the largest: smaller ones are left out

// Which sample a place beyond the plane takes; -1: none.
static inline int reflected(int at, int count, int border) {
    if (at >= 0 && at < count) return at;
    if (border == 0) return at < 0 ? 0 : count - 1;
    if (border == 3) return -1;
    if (border == 2) {
        int rest = at % count;
        return rest < 0 ? rest + count : rest;
    }
    if (count == 1) return 0;
    int around = 2 * count - 2, rest = at % around;
    if (rest < 0) rest += around;
    return rest < count ? rest : around - rest;
}

typedef struct {
    int32_t first_row, rows;    // source rows that a tile needs
    int32_t first, last;        // source columns, Q16, least and most
    int32_t nodes;              // columns of nodes
    int32_t bits_across, bits_down;  // of the fraction of places, so that a block's fit into 16 bits
    int32_t *across;            // nodes, rows: Q16 source column where a column of nodes meets a source row
    int32_t *down;              // nodes, height: Q16 source row of each result row
    int32_t *at, *step, *begins, *ends, *filled;  // of each column of nodes, while one row of them is worked on
} Places;

// Room for so many columns of nodes and result rows; 0 where there is none.
static int places_begin(Places *p, int64_t nodes, int64_t height) {
    p->across = malloc(nodes * MOST_ROWS * sizeof(int32_t));
    p->down = malloc(nodes * height * sizeof(int32_t));
    p->at = malloc(5 * nodes * sizeof(int32_t));
    p->step = p->at + nodes;
    p->begins = p->step + nodes;
    p->ends = p->begins + nodes;
    p->filled = p->ends + nodes;
    return p->across && p->down && p->at;
}

static void places_end(Places *p) {
    free(p->across);
    free(p->down);
    free(p->at);
}

// Q16, rounded down, kept inside what 32 bits and a margin hold.
static inline __attribute__((always_inline)) int32_t fixed(double value) {
    double scaled = value * 65536.0;
    scaled = scaled > -1.0e9 ? scaled : -1.0e9;
    return (int32_t)floor(scaled < 1.0e9 ? scaled : 1.0e9);
}

// A running mean: each value moves it by the value's share of all weights so far. So an even picture stays what it is,
// however many views are averaged and however uneven their weights.
typedef struct {
    int32_t so_far;
} Running;

// The share of 32768 with which a value of this weight joins a running mean; 32768 where the mean becomes the value.
static inline int32_t joined(Running *mean, int32_t weight) {
    if (mean->so_far == 0) {
        mean->so_far = weight;
        return 32768;
    }
    mean->so_far += weight;
    int64_t share = ((int64_t)weight * 65536 + mean->so_far) / (2 * (int64_t)mean->so_far);
    return share > 32767 ? 32767 : (int32_t)share;
}

// What a tile is drawn out by: shares of 32768 (or of one) of the pixels at offsets.
typedef struct {
    int count, left, right, up, down;  // offsets reach so far
    int32_t *dx, *dy;
    int16_t *share;
    float *part;
    int pairs;                // the same, two neighbours of a row together: offsets of the first, both shares in a word
    int32_t *pair_dx, *pair_dy, *pair;
} Taps;

static inline void cubic_shares(double t, double *w) {
    double u = 1.0 - t;
    w[0] = -0.5 * t * u * u;
    w[1] = (1.5 * t - 2.5) * t * t + 1.0;
    w[2] = (1.5 * u - 2.5) * u * u + 1.0;
    w[3] = -0.5 * u * t * t;
}

// Taps that average along a way: points between pixels count as cubic convolution says, so that the middle and the
// spread of the taps are those of the way. ramp_in, ramp_out: shares of it over which it grows and fades.
static int draw_taps(const double *way, int points, double ramp_in, double ramp_out, Taps *out) {
    double length = 0.0;
    for (int k = 1; k < points; k++) {
        double x = way[2 * k] - way[2 * k - 2], y = way[2 * k + 1] - way[2 * k - 1];
        length += sqrt(x * x + y * y);
    }
    int count = (int)ceil(length * FINE);
    if (count < 8) count = 8;
    if (count > 16384) count = 16384;
    double least_x = way[0], most_x = way[0], least_y = way[1], most_y = way[1];
    for (int k = 1; k < points; k++) {
        double x = way[2 * k], y = way[2 * k + 1];
        if (x < least_x) least_x = x;
        if (x > most_x) most_x = x;
        if (y < least_y) least_y = y;
        if (y > most_y) most_y = y;
    }
    if (!(least_x > -4000.0 && most_x < 4000.0 && least_y > -4000.0 && most_y < 4000.0)) return 0;
    int left = (int)floor(least_x) - 1, up = (int)floor(least_y) - 1;
    int columns = (int)floor(most_x) + 3 - left, rows = (int)floor(most_y) + 3 - up;
    double *sums = calloc((size_t)columns * rows, sizeof(double));
    if (!sums) return 0;
    double total = 0.0;
    for (int k = 0; k < count; k++) {
        double at = (k + 0.5) / count, place = at * (points - 1);
        int low = (int)place;
        if (low > points - 2) low = points - 2;
        double share = place - low, held = 1.0;
        if (ramp_in > 0.0 && at < ramp_in) held = at / ramp_in;
        if (ramp_out > 0.0 && 1.0 - at < ramp_out) {
            double fading = (1.0 - at) / ramp_out;
            if (fading < held) held = fading;
        }
        held = held * held * (3.0 - 2.0 * held);  // smoothly: what one loses the next gains
        double x = way[2 * low] * (1.0 - share) + way[2 * low + 2] * share;
        double y = way[2 * low + 1] * (1.0 - share) + way[2 * low + 3] * share;
        int cx = (int)floor(x), cy = (int)floor(y);
        double wx[4], wy[4];
        cubic_shares(x - cx, wx);
        cubic_shares(y - cy, wy);
        for (int j = 0; j < 4; j++) {
            double *row = sums + (int64_t)(cy - 1 - up + j) * columns + (cx - 1 - left);
            double across = held * wy[j];
            for (int i = 0; i < 4; i++) row[i] += across * wx[i];
        }
        total += held;
    }
    double largest = 0.0, kept = 0.0;
    int cells = columns * rows, n = 0;
    for (int k = 0; k < cells; k++)
        if (fabs(sums[k]) > largest) largest = fabs(sums[k]);
    for (int k = 0; k < cells; k++)
        if (fabs(sums[k]) < LEAST_TAP * largest) sums[k] = 0.0;
        else kept += sums[k], n++;
    if (n < 1 || n > MOST_TAPS) {
        free(sums);
        return 0;
    }
    out->dx = malloc((size_t)n * (5 * sizeof(int32_t) + sizeof(float) + sizeof(int16_t)));
    if (!out->dx) {
        free(sums);
        return 0;
    }
    out->dy = out->dx + n;
    out->pair_dx = out->dy + n;
    out->pair_dy = out->pair_dx + n;
    out->pair = out->pair_dy + n;
    out->part = (float *)(out->pair + n);
    out->share = (int16_t *)(out->part + n);
    int64_t left_over = 32768;
    int greatest = 0;
    out->left = out->right = out->up = out->down = 0;
    n = 0;
    for (int k = 0; k < cells; k++) {
        if (sums[k] == 0.0) continue;
        int dx = left + k % columns, dy = up + k / columns;
        double part = sums[k] / kept;
        int32_t share = (int32_t)floor(part * 32768.0 + 0.5);
        out->dx[n] = dx;
        out->dy[n] = dy;
        out->share[n] = (int16_t)(share > 32767 ? 32767 : share);
        out->part[n] = (float)part;
        left_over -= out->share[n];
        if (out->share[n] > out->share[greatest]) greatest = n;
        if (-dx > out->left) out->left = -dx;
        if (dx > out->right) out->right = dx;
        if (-dy > out->up) out->up = -dy;
        if (dy > out->down) out->down = dy;
        n++;
    }
    int64_t most = out->share[greatest] + left_over;
    out->share[greatest] = (int16_t)(most > 32767 ? 32767 : most);
    out->pairs = 0;
    for (int k = 0; k < n; k++) {
        int together = k + 1 < n && out->dy[k + 1] == out->dy[k] && out->dx[k + 1] == out->dx[k] + 1;
        out->pair_dx[out->pairs] = out->dx[k];
        out->pair_dy[out->pairs] = out->dy[k];
        uint32_t second = together ? (uint16_t)out->share[k + 1] : 0;
        out->pair[out->pairs++] = (int32_t)((uint16_t)out->share[k] | second << 16);
        k += together;
    }
    out->count = n;
    free(sums);
    return 1;
}

// The taps of every tile of every trail, the smear's last, and how far they reach.
typedef struct {
    Taps *taps;
    int count, drawn;
    int reach_x, reach_y, smear_x, smear_y;
} Draws;

static void free_draws(Draws *draws) {
    for (int k = 0; draws->taps && k <= draws->count; k++) free(draws->taps[k].dx);
    free(draws->taps);
}

static int larger_of(int a, int b) { return a > b ? a : b; }

static int trail_tiles(const Trail *trail) { return trail->points > 1 ? trail->across * trail->down : 0; }

// Zero if there is not enough memory, or a way is longer than a picture.
static int prepare_draws(const Mean *job, Draws *out) {
    memset(out, 0, sizeof *out);
    for (int g = 0; g < job->trails; g++) out->count += trail_tiles(&job->trail[g]);
    out->drawn = out->count > 0 || job->smear_points > 1;
    out->taps = calloc(out->count + 1, sizeof(Taps));
    if (!out->taps) return 0;
    Taps *one = out->taps;
    for (int g = 0; g < job->trails; g++) {
        const Trail *trail = &job->trail[g];
        for (int k = 0; k < trail_tiles(trail); k++, one++) {
            const double *way = trail->ways + (int64_t)2 * k * trail->points;
            if (!draw_taps(way, trail->points, trail->ramp_in, trail->ramp_out, one)) return 0;
            out->reach_x = larger_of(out->reach_x, larger_of(one->left, one->right));
            out->reach_y = larger_of(out->reach_y, larger_of(one->up, one->down));
        }
    }
    if (job->smear_points > 1) {
        if (!draw_taps(job->smear, job->smear_points, 0.0, 0.0, one)) return 0;
        out->smear_x = larger_of(one->left, one->right);
        out->smear_y = larger_of(one->up, one->down);
    }
    return 1;
}

// Pixels up to whole blocks.
static int whole_blocks(int pixels) { return (pixels + LANE - 1) / LANE * LANE; }

// An ordered pattern (B. Bayer, 1973), 0 ... 63.
static inline int bayer(int x, int y) {
    int out = 0;
    for (int k = 0; k < 3; k++) {
        int a = (x >> k) & 1, b = (y >> k) & 1;
        out += ((a ^ b) * 2 + b) << (4 - 2 * k);
    }
    return out;
}

#endif
