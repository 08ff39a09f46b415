// Included by level.h for integer samples (int16 with a fraction) and for float ones: the mean of the views of a plane.

#if REAL
#define T float
#define TX f32x
#define NAME(name) LEVEL(name##_real)
#define LOAD LEVEL(load_real)
#define STORE LEVEL(store_real)
#else
#define T int16_t
#define TX i16x
#define NAME(name) LEVEL(name)
#define LOAD LEVEL(load)
#define STORE LEVEL(store)
#endif

typedef struct {
    T *pixels;            // a part of the source with its border, rows of `pitch`
    int64_t pitch, room;
    int left, top, columns, rows;
} NAME(Part);

typedef struct {
    int32_t base[MOST_ROWS], rest[MOST_ROWS], step[MOST_ROWS], rest1[MOST_ROWS], step1[MOST_ROWS], more[MOST_ROWS];
} NAME(Blocks);

// Fetch the source's columns left ... left + columns and rows top ... top + rows, what lies beyond included.
FN int NAME(fetch)(const Source *s, int left, int top, int columns, int rows, NAME(Part) *out) {
    int64_t pitch = (columns + 2 * LANES + 31) & ~31, need = pitch * rows;
    if (need > out->room) {
        free(out->pixels);
        out->room = 0;
        out->pixels = aligned_alloc(64, (need * sizeof(T) + 63) & ~(int64_t)63);
        if (!out->pixels) return 0;
        out->room = need;
    }
    out->pitch = pitch;
    out->left = left;
    out->top = top;
    out->columns = columns;
    out->rows = rows;
    const int shift = s->fraction, bytes = s->sample;
    (void)shift;
    int begin = left < 0 ? 0 : left, end = left + columns > s->width ? s->width : left + columns;
    if (begin > end) begin = end = left < 0 ? 0 : s->width;
    for (int r = 0; r < rows; r++) {
        T *to = out->pixels + r * pitch;
        int row = reflected(top + r, s->height, s->border);
        if (row < 0) {
            memset(to, 0, columns * sizeof(T));
            continue;
        }
        const char *from = (const char *)s->pixels + row * s->pitch;
#if REAL
#define SAMPLE(x) (bytes == 4 ? ((const float *)from)[x] : (float)((const uint16_t *)from)[x])
#else
#define SAMPLE(x) \
    (int16_t)(bytes == 1 ? ((const uint8_t *)from)[x] << shift : ((const uint16_t *)from)[x] << shift)
#endif
        for (int x = left; x < begin && x < left + columns; x++) {
            int at = reflected(x, s->width, s->border);
            to[x - left] = at < 0 ? 0 : SAMPLE(at);
        }
        for (int x = end > left ? end : left; x < left + columns; x++) {
            int at = reflected(x, s->width, s->border);
            to[x - left] = at < 0 ? 0 : SAMPLE(at);
        }
#if REAL
        if (bytes == 4 && end > begin) memcpy(to + begin - left, (const float *)from + begin, (end - begin) * sizeof(float));
        for (int x = begin; bytes == 2 && x < end; x++) to[x - left] = (float)((const uint16_t *)from)[x];
#else
        T *restrict middle = to + begin - left;
        const int count = end - begin;
        if (bytes == 1) {
            const uint8_t *restrict p = (const uint8_t *)from + begin;
            for (int x = 0; x < count; x++) middle[x] = (int16_t)((uint16_t)p[x] << shift);
        } else {
            const uint16_t *restrict p = (const uint16_t *)from + begin;
            for (int x = 0; x < count; x++) middle[x] = (int16_t)(p[x] << shift);
        }
#endif
#undef SAMPLE
    }
    return 1;
}

// Where blocks of sixteen lanes look, of `count` rows of them: places go on from the first lane's whole sample, `base`,
// by each lane's rest, in Q14, or in Q13 if `wide`. `more`: how many samples more than one a lane a block needs.
LEAF void NAME(lanes)(const int32_t *p0, const int32_t *p1, const int32_t *p2, int count, int32_t origin, int32_t whole,
                      int halves, int wide, NAME(Blocks) *b) {
    const int less = wide ? 3 : 2, shift = (halves ? 3 : 4) + less, bits = 16 - less;
    for (int r = 0; r < count; r++) {
        int32_t start = (p0[r] >> less) - origin, step = ((p1[r] - p0[r]) >> shift) - whole;
        int32_t end = start + (halves ? 7 : 15) * step, low = start < end ? start : end, high = start < end ? end : start;
        int32_t start1 = 0, step1 = 0;
        if (halves) {
            start1 = (p1[r] >> less) - origin - 8 * whole;
            step1 = ((p2[r] - p1[r]) >> shift) - whole;
            int32_t end1 = start1 + 7 * step1, low1 = start1 < end1 ? start1 : end1, high1 = start1 < end1 ? end1 : start1;
            low = low < low1 ? low : low1;
            high = high < high1 ? high1 : high;
        }
        int32_t from = low >> bits << bits;
        b->base[r] = low >> bits;
        b->rest[r] = (start - from) * 65537;
        b->step[r] = (step & 65535) * 65537;
        if (halves) {
            b->rest1[r] = (start1 - from) * 65537;
            b->step1[r] = (step1 & 65535) * 65537;
        }
        if (wide) b->more[r] = (high - from) >> bits;
    }
}

LEAF u16x NAME(pair)(int32_t twice) {
    const i32h none = {0};
    return (u16x)(none + twice);
}

LEAF u16x NAME(rest)(const NAME(Blocks) *b, int r, int halves) {
    const u16x lane = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15};
    if (!halves) return NAME(pair)(b->rest[r]) + lane * NAME(pair)(b->step[r]);
    const u16x half = {0, 1, 2, 3, 4, 5, 6, 7, 0, 1, 2, 3, 4, 5, 6, 7};
    const i16x first = {-1, -1, -1, -1, -1, -1, -1, -1, 0, 0, 0, 0, 0, 0, 0, 0};
    u16x start = (u16x)LEVEL(select)(first, (i16x)NAME(pair)(b->rest[r]), (i16x)NAME(pair)(b->rest1[r]));
    return start + half * (u16x)LEVEL(select)(first, (i16x)NAME(pair)(b->step[r]), (i16x)NAME(pair)(b->step1[r]));
}

// Sixteen results between samples whose neighbours lie `pitch` apart; p: the sample before the first lane's own.
LEAF TX NAME(between)(const T *p, int64_t pitch, u16x rest, int more, int wide) {
    i16x doubled = (i16x)(rest << (wide ? 2 : 1)), on = wide ? (i16x)(rest > 8191) : doubled >> 15;
#if !REAL && WIDTH == 64
    if (wide && pitch == 1) {  // all samples in two registers: each lane picks its own
        const u16x lane = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15};
        __m512i all = _mm512_loadu_si512((const void *)p);
        __m256i at = (__m256i)((rest >> 13) + lane), one = _mm256_set1_epi16(1);
        i16x q[4];
        for (int k = 0; k < 4; k++) {
            q[k] = (i16x)_mm512_castsi512_si256(_mm512_permutexvar_epi16(_mm512_castsi256_si512(at), all));
            at = _mm256_add_epi16(at, one);
        }
        return LEVEL(cubic)(q[0], q[1], q[2], q[3], doubled & LEVEL(every)(32767));
    }
#endif
    TX s0 = LOAD(p), s1 = LOAD(p + pitch), s2 = LOAD(p + 2 * pitch), s3 = LOAD(p + 3 * pitch), s4 = LOAD(p + 4 * pitch);
#if REAL
    i32x mask = __builtin_convertvector(on, i32x);
#define PICK(a, b) (f32x)(((i32x)(a) & mask) | ((i32x)(b) & ~mask))
#else
#define PICK(a, b) LEVEL(select)(on, a, b)
#endif
    s0 = PICK(s1, s0);
    s1 = PICK(s2, s1);
    s2 = PICK(s3, s2);
    s3 = PICK(s4, s3);
    for (int e = 2; wide && e <= more; e++) {
        const T *q = p + e * pitch;
        on = (i16x)((i16x)(rest >> 13) >= LEVEL(every)(e));
#if REAL
        mask = __builtin_convertvector(on, i32x);
#endif
        s0 = PICK(LOAD(q), s0);
        s1 = PICK(LOAD(q + pitch), s1);
        s2 = PICK(LOAD(q + 2 * pitch), s2);
        s3 = PICK(LOAD(q + 3 * pitch), s3);
    }
#undef PICK
    i16x t = doubled & LEVEL(every)(32767);
#if REAL
    return LEVEL(cubic_real)(s0, s1, s2, s3, __builtin_convertvector(t, f32x) * (1.0f / 32768.0f));
#else
    return LEVEL(cubic)(s0, s1, s2, s3, t);
#endif
}

// A running mean that a value joins with a share of 32768.
LEAF TX NAME(join)(TX mean, TX value, int32_t share) {
#if REAL
    return mean + (value - mean) * ((float)share * (1.0f / 32768.0f));
#else
    return mean + LEVEL(share)(value - mean, LEVEL(every)(share));
#endif
}

// One view of a tile by dense blocks: along the rows of the source first, then down its columns. `halves`: nodes are
// half a block apart; `wide`: steps from lane to lane are far from one sample. Both are known where it is compiled.
LEAF void NAME(dense_as)(const NAME(Part) *part, const Places *p, int width, int height, int32_t share, int first, T *sum,
                         int64_t sum_pitch, T *rows, NAME(Blocks) *b, int halves, int wide, int wide_down) {
    const int per = halves ? 2 : 1, count = p->rows, first_row = p->first_row;
    const int64_t pitch = part->pitch;
    for (int k = 0; k * LANE < width; k++) {
        const int32_t *a0 = p->across + (int64_t)k * per * count, *a1 = a0 + count, *a2 = a1 + (halves ? count : 0);
        const int32_t *d0 = p->down + (int64_t)k * per * height, *d1 = d0 + height, *d2 = d1 + (halves ? height : 0);
        int32_t low = d0[0] < d1[0] ? d0[0] : d1[0], high = d0[height - 1] > d1[height - 1] ? d0[height - 1] : d1[height - 1];
        if (d2[0] < low) low = d2[0];
        if (d2[height - 1] > high) high = d2[height - 1];
        int begin = (low >> 16) - 1 - first_row, end = (high >> 16) + 4 - first_row;
        if (end > count) end = count;
        NAME(lanes)(a0 + begin, a1 + begin, a2 + begin, end - begin, part->left << (wide ? 13 : 14), wide ? 8192 : 16384, halves, wide, b);
        const T *line = part->pixels + (first_row + begin - part->top) * pitch - 1;
        for (int r = 0; r < end - begin; r++, line += pitch) {
            TX value = NAME(between)(line + b->base[r], 1, NAME(rest)(b, r, halves), wide ? b->more[r] : 1, wide);
            STORE(rows + r * LANE, value);
        }
        NAME(lanes)(d0, d1, d2, height, (first_row + begin) << (wide_down ? 13 : 14), 0, halves, wide_down, b);
        T *to = sum + k * LANE;
        for (int y = 0; y < height; y++, to += sum_pitch) {
            TX value = NAME(between)(rows + (b->base[y] - 1) * LANE, LANE, NAME(rest)(b, y, halves), wide_down ? b->more[y] : 1, wide_down);
            STORE(to, first ? value : NAME(join)(LOAD(to), value, share));
        }
    }
}

FN void NAME(dense)(const NAME(Part) *part, const Places *p, int spacing, int width, int height, int32_t share, T *sum,
                    int64_t sum_pitch, T *rows, NAME(Blocks) *b) {
    const int first = share == 32768;
    if (spacing == 8) NAME(dense_as)(part, p, width, height, share, first, sum, sum_pitch, rows, b, 1, 1, 1);
    else if (p->wide_down) NAME(dense_as)(part, p, width, height, share, first, sum, sum_pitch, rows, b, 0, 1, 1);
    else if (p->wide_across) NAME(dense_as)(part, p, width, height, share, first, sum, sum_pitch, rows, b, 0, 1, 0);
    else if (first) NAME(dense_as)(part, p, width, height, share, 1, sum, sum_pitch, rows, b, 0, 0, 0);
    else NAME(dense_as)(part, p, width, height, share, 0, sum, sum_pitch, rows, b, 0, 0, 0);
}

// One sample of a source, what lies beyond included.
static inline T NAME(sample)(const Source *s, int x, int y) {
    int column = x, row = y;
    if ((unsigned)x >= (unsigned)s->width || (unsigned)y >= (unsigned)s->height) {
        column = reflected(x, s->width, s->border);
        row = reflected(y, s->height, s->border);
        if (column < 0 || row < 0) return 0;
    }
    const char *from = (const char *)s->pixels + row * s->pitch;
#if REAL
    return s->sample == 4 ? ((const float *)from)[column] : (float)((const uint16_t *)from)[column];
#else
    return (int16_t)((s->sample == 1 ? ((const uint8_t *)from)[column] : ((const uint16_t *)from)[column]) << s->fraction);
#endif
}

// Cubic convolution of one result, the same numbers as LEVEL(cubic); t: 0 ... 32767.
#if REAL
static inline T NAME(single)(T s0, T s1, T s2, T s3, int t) {
    float share = (float)t * (1.0f / 32768.0f);
    float d = s2 - s1, c1 = (s2 - s0) * 0.5f;
    float c3 = (s3 - s0 - d) * 0.5f - d, c2 = d - c1 - c3;
    return s1 + (c1 + (c2 + c3 * share) * share) * share;
}
#else
static inline T NAME(single)(int s0, int s1, int s2, int s3, int t) {
    int16_t d = (int16_t)(s2 - s1), c1 = (int16_t)((int16_t)(s2 - s0) >> 1);
    int16_t c3 = (int16_t)(((int16_t)(s3 - s0 - d) >> 1) - d), c2 = (int16_t)(d - c1 - c3);
    int16_t r = (int16_t)(c2 + (int16_t)((c3 * t + 16384) >> 15));
    r = (int16_t)(c1 + (int16_t)((r * t + 16384) >> 15));
    return (int16_t)(s1 + (int16_t)((r * t + 16384) >> 15));
}
#endif

// One view of a tile pixel by pixel: any turn, size or fold.
FN void NAME(gather)(const Source *s, const Views *v, int view, int left, int top, int width, int height,
                     int32_t share, T *sum, int64_t sum_pitch) {
    const double *nodes = v->nodes + 2 * (int64_t)view * v->rows * v->columns;
    int64_t pitch = 2 * (int64_t)v->columns;
    int bits = v->spacing == 8 ? 3 : 4;
    for (int y = 0; y < height; y++) {
        int row = (top + y - v->top) / v->drop;
        if (row > v->rows - 2) row = v->rows - 2;
        int ahead = top + y - v->top - row * v->drop;
        for (int x = 0; x < width; x += v->spacing) {
            const double *a = nodes + row * pitch + 2 * ((left + x - v->left) >> bits), *b = a + pitch;
            int64_t near[2], gone[2];
            for (int c = 0; c < 2; c++) {
                near[c] = fixed(a[c] + (b[c] - a[c]) * ahead / v->drop);
                gone[c] = fixed(a[c + 2] + (b[c + 2] - a[c + 2]) * ahead / v->drop) - near[c];
            }
            for (int i = 0; i < v->spacing; i++) {
                int64_t px = near[0] + ((gone[0] * i) >> bits), py = near[1] + ((gone[1] * i) >> bits);
                int cx = (int)(px >> 16), cy = (int)(py >> 16);
                int tx = (int)((px & 65535) >> 2) << 1, ty = (int)((py & 65535) >> 2) << 1;
                T lines[4];
                for (int j = 0; j < 4; j++) {
                    T q[4];
                    for (int n = 0; n < 4; n++) q[n] = NAME(sample)(s, cx - 1 + n, cy - 1 + j);
                    lines[j] = NAME(single)(q[0], q[1], q[2], q[3], tx);
                }
                T value = NAME(single)(lines[0], lines[1], lines[2], lines[3], ty);
                T *to = sum + y * sum_pitch + x + i;
#if REAL
                *to = share == 32768 ? value : *to + (value - *to) * ((float)share * (1.0f / 32768.0f));
#else
                *to = share == 32768 ? value : (T)(*to + (T)(((T)(value - *to) * share + 16384) >> 15));
#endif
            }
        }
    }
}

// What `from` gives through taps, the sum of share * from(q + offset), joins the running mean `out`. Both of one pitch.
FN void NAME(draw)(const T *from, const Taps *taps, int32_t share, T *out, int64_t pitch, int width, int height) {
    int64_t offsets[MOST_TAPS + 1];
    for (int n = 0; n < taps->count; n++) offsets[n] = taps->dy[n] * pitch + taps->dx[n];
    offsets[taps->count] = 0;
    for (int y = 0; y < height; y++)
        for (int x = 0; x < width; x += 2 * LANE) {
            const T *p = from + y * pitch + x;
            T *to = out + y * pitch + x;
#if REAL
            TX a = {0}, b = {0};
            for (int n = 0; n < taps->count; n++) {
                const f32x none = {0};
                f32x w = none + taps->part[n];
                a += LOAD(p + offsets[n]) * w;
                b += LOAD(p + offsets[n] + LANE) * w;
            }
#else
            LEVEL(Sums) s, t;
            memset(&s, 0, sizeof s);
            memset(&t, 0, sizeof t);
            for (int n = 0; n < taps->count; n += 2) {
                const T *q = p + offsets[n], *r = p + offsets[n + 1];
                LEVEL(add_products)(&s, LOAD(q), LOAD(r), taps->pairs[n >> 1]);
                LEVEL(add_products)(&t, LOAD(q + LANE), LOAD(r + LANE), taps->pairs[n >> 1]);
            }
            TX a = LEVEL(rounded)(&s), b = LEVEL(rounded)(&t);
#endif
            if (share != 32768) {
                a = NAME(join)(LOAD(to), a, share);
                b = NAME(join)(LOAD(to + LANE), b, share);
            }
            T all[2 * LANE];
            STORE(all, a);
            STORE(all + LANE, b);
            if (width - x >= 2 * LANE) memcpy(to, all, sizeof all);
            else memcpy(to, all, (width - x) * sizeof(T));
        }
}

// What is left of a tile when its views are added up: into the target's own samples.
FN void NAME(finish)(const T *sum, int64_t pitch, const Target *t, int fraction, int left, int top, int width, int height) {
#if !REAL
    int16_t offsets[8][LANE];
    for (int y = 0; y < 8; y++)
        for (int i = 0; i < LANE; i++) {
            int step = 1 << fraction, pattern = 3 * step * (2 * bayer((left + i) & 7, y) - 63);
            offsets[y][i] = (int16_t)((step >> 1) + (t->dither ? (pattern + 320 + 640 * 1024) / 640 - 1024 : 0));
        }
    i16x most = LEVEL(every)(t->top_value), none = LEVEL(every)(0);
#endif
    for (int y = 0; y < height; y++) {
        const T *from = sum + y * pitch;
        char *row = (char *)t->pixels + (int64_t)(top + y - t->top) * t->pitch;
#if REAL
        (void)fraction;
        if (t->sample == 4) {
            memcpy((float *)row + (left - t->left), from, width * sizeof(float));
            continue;
        }
        uint16_t *to = (uint16_t *)row + (left - t->left);
        float most = (float)t->top_value;
        for (int x = 0; x < width; x++) {
            float value = from[x] < 0.0f ? 0.0f : from[x] > most ? most : from[x];
            to[x] = (uint16_t)(value + 0.5f);
        }
#else
        int16_t *deep = (int16_t *)row + (left - t->left);
        if (t->raw) {
            memcpy(deep, from, width * sizeof(int16_t));
            continue;
        }
        i16x add = LEVEL(load)(offsets[(top + y) & 7]);
        uint8_t *shallow = (uint8_t *)row + (left - t->left);
        for (int x = 0; x < width; x += LANE) {
            i16x value = LEVEL(smaller)(LEVEL(larger)((LEVEL(load)(from + x) + add) >> fraction, none), most);
            u8x bytes = __builtin_convertvector(value, u8x);
            const void *made = t->sample == 1 ? (const void *)&bytes : (const void *)&value;
            void *to = t->sample == 1 ? (void *)(shallow + x) : (void *)(deep + x);
            if (width - x < LANE) memcpy(to, made, (width - x) * t->sample);
            else if (t->sample == 1) memcpy(to, made, LANE);
            else memcpy(to, made, 2 * LANE);
        }
#endif
    }
}

// Scratch memory of one request. Sums have `room` about a tile for what is drawn out of them, and one pitch.
typedef struct {
    NAME(Part) part;
    Places places;
    T *sum, *total, *smeared, *rows;
    int64_t pitch;
    int room_x, room_y;
    NAME(Blocks) blocks;
} NAME(Work);

typedef struct {
    int left, top, width, height;  // width: whole blocks
} NAME(Box);

static NAME(Box) NAME(widened)(NAME(Box) box, int x, int y) {
    NAME(Box) out = {box.left - x, box.top - y, box.width + 2 * x, box.height + 2 * y};
    return out;
}

// The views of one trail over a part of the frame that begins at a node join the running mean `sum`.
FN int NAME(add_views)(Mean *job, const Trail *trail, NAME(Box) box, T *sum, Running *mean, NAME(Work) *work) {
    const Views *v = &job->views;
    for (int k = 0; k < trail->count; k++) {
        int view = trail->first + k;
        int32_t share = joined(mean, v->weights[view]);
        Places *p = &work->places;
        if (!LEVEL(tile_places)(v, view, box.left, box.top, box.width, box.height, p)) {
            NAME(gather)(&job->source, v, view, box.left, box.top, box.width, box.height, share, sum, work->pitch);
            job->tiles_gathered++;
            continue;
        }
        int from = (p->first >> 16) - 4, columns = (p->last >> 16) + LANE + 12 - from;
        NAME(Part) *part = &work->part;
        int held = part->pixels && from >= part->left && from + columns <= part->left + part->columns &&
                   p->first_row >= part->top && p->first_row + p->rows <= part->top + part->rows;
        // room for the next views, which look nearly there
        if (!held && !NAME(fetch)(&job->source, from - 8, p->first_row - 8, columns + 16, p->rows + 16, part)) return 0;
        NAME(dense)(part, p, v->spacing, box.width, box.height, share, sum, work->pitch, work->rows, &work->blocks);
        job->tiles_dense++;
    }
    return 1;
}

// Where a line of a division of a frame lies; the outermost ones lie beyond every box.
static int NAME(division)(int number, int count, int length) {
    if (number == 0) return -100000;
    return number == count ? 100000 : (int)((int64_t)number * length / count);
}

// A trail over a box, drawn out tile by tile, joins the running mean `into`, whose first pixel is the box's.
FN int NAME(add_trail)(Mean *job, const Trail *trail, const Taps *taps, const Draws *draws, NAME(Box) box, T *into,
                       Running *mean, NAME(Work) *work) {
    int64_t pitch = work->pitch;
    if (trail->points < 2) return NAME(add_views)(job, trail, box, into, mean, work);
    int room_x = whole_blocks(draws->reach_x), room_y = draws->reach_y;
    Running views = {0};
    if (!NAME(add_views)(job, trail, NAME(widened)(box, room_x, room_y), work->sum, &views, work)) return 0;
    int32_t share = joined(mean, views.so_far);
    const Target *t = &job->target;
    for (int j = 0; j < trail->down; j++)
        for (int i = 0; i < trail->across; i++, taps++) {
            int left = NAME(division)(i, trail->across, t->frame_width) - box.left;
            int right = NAME(division)(i + 1, trail->across, t->frame_width) - box.left;
            int up = NAME(division)(j, trail->down, t->frame_height) - box.top;
            int low = NAME(division)(j + 1, trail->down, t->frame_height) - box.top;
            if (left < 0) left = 0;
            if (right > box.width) right = box.width;
            if (up < 0) up = 0;
            if (low > box.height) low = box.height;
            if (left >= right || up >= low) continue;
            NAME(draw)(work->sum + (up + room_y) * pitch + left + room_x, taps, share, into + up * pitch + left, pitch,
                       right - left, low - up);
        }
    return 1;
}

// A tile of trails that are drawn out or smeared: what is smeared first, with room about it.
FN int NAME(drawn_tile)(Mean *job, const Draws *draws, NAME(Box) box, NAME(Work) *work) {
    int64_t pitch = work->pitch;
    Running total = {0};
    for (int smeared = job->smear_points > 1; smeared >= 0; smeared--) {
        NAME(Box) wide = smeared ? NAME(widened)(box, whole_blocks(draws->smear_x), draws->smear_y) : box;
        T *into = smeared ? work->smeared : work->total;
        Running mean = {0};
        const Taps *taps = draws->taps;
        for (int g = 0; g < job->trails; taps += trail_tiles(&job->trail[g++])) {
            int is_smeared = job->trail[g].smeared && job->smear_points > 1;
            if (is_smeared == smeared &&
                !NAME(add_trail)(job, &job->trail[g], taps, draws, wide, into, smeared ? &mean : &total, work))
                return 0;
        }
        if (smeared && mean.so_far > 0) {
            const T *from = into + draws->smear_y * pitch + whole_blocks(draws->smear_x);
            NAME(draw)(from, draws->taps + draws->count, joined(&total, mean.so_far), work->total, pitch, box.width, box.height);
        }
    }
    return 1;
}

static int NAME(begin)(const Mean *job, const Draws *draws, int width, int height, NAME(Work) *work) {
    memset(work, 0, sizeof *work);
    int room_x = whole_blocks(draws->reach_x) + whole_blocks(draws->smear_x), room_y = draws->reach_y + draws->smear_y;
    int64_t rows = height + 2 * room_y + 1, nodes = (width + 2 * room_x) / job->views.spacing + 2;
    work->pitch = width + 2 * room_x + 4 * LANE;
    size_t bytes = (work->pitch * rows * sizeof(T) + 63) & ~(size_t)63;
    work->sum = aligned_alloc(64, bytes);
    work->total = aligned_alloc(64, bytes);
    work->smeared = job->smear_points > 1 ? aligned_alloc(64, bytes) : 0;
    work->rows = aligned_alloc(64, MOST_ROWS * LANE * sizeof(T));
    work->places.across = malloc(nodes * MOST_ROWS * sizeof(int32_t));
    work->places.down = malloc(nodes * rows * sizeof(int32_t));
    if (!work->sum || !work->total || !work->rows || !work->places.across || !work->places.down) return 0;
    if (job->smear_points > 1 && !work->smeared) return 0;
    memset(work->sum, 0, bytes);
    memset(work->total, 0, bytes);
    return 1;
}

static void NAME(end)(NAME(Work) *work) {
    free(work->part.pixels);
    free(work->sum);
    free(work->total);
    free(work->smeared);
    free(work->rows);
    free(work->places.across);
    free(work->places.down);
}

// All of a request. Zero, or one where there is not enough memory.
static int NAME(mean)(Mean *job) {
    const Target *t = &job->target;
    Draws draws;
    NAME(Work) work;
    int ready = prepare_draws(job, &draws), right = t->left + t->width, bottom = t->top + t->height;
    int width = draws.drawn ? LONG_WIDTH : TILE_WIDTH, height = draws.drawn ? LONG_HEIGHT : TILE_HEIGHT;
    ready = NAME(begin)(job, &draws, width, height, &work) && ready;
    for (int top = t->top / height * height; top < bottom && ready; top += height)
        for (int left = t->left / width * width; left < right && ready; left += width) {
            int columns = left + width > t->frame_width ? t->frame_width - left : width;
            int rows = top + height > t->frame_height ? t->frame_height - top : height;
            NAME(Box) box = {left, top, whole_blocks(columns), rows};
            Running mean = {0};
            if (draws.drawn) ready = NAME(drawn_tile)(job, &draws, box, &work);
            for (int g = 0; g < job->trails && ready && !draws.drawn; g++)
                ready = NAME(add_views)(job, &job->trail[g], box, work.total, &mean, &work);
            if (!ready) break;
            int l = left > t->left ? left : t->left, r = left + columns < right ? left + columns : right;
            int u = top > t->top ? top : t->top, d = top + rows < bottom ? top + rows : bottom;
            NAME(finish)(work.total + (u - top) * work.pitch + (l - left), work.pitch, t, job->source.fraction, l, u, r - l,
                         d - u);
        }
    NAME(end)(&work);
    free_draws(&draws);
    return !ready;
}

#include "lay.h"

#undef T
#undef TX
#undef NAME
#undef LOAD
#undef STORE
