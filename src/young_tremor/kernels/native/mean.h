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
    T *memory, *pixels;   // a part of the source with its border, rows of `pitch`; room of LEAD samples before it
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
        free(out->memory);
        out->room = 0;
        out->pixels = 0;
        out->memory = aligned_alloc(64, ((need + LEAD) * sizeof(T) + 63) & ~(int64_t)63);
        if (!out->memory) return 0;
        out->pixels = out->memory + LEAD;
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
        float *restrict middle = to + begin - left;
        const uint16_t *restrict p = (const uint16_t *)from + begin;
        for (int x = 0; bytes == 2 && x < end - begin; x++) middle[x] = (float)p[x];
#else
        T *restrict middle = to + begin - left;
        const int count = end - begin;
        if (bytes == 1) {
            const uint8_t *restrict p = (const uint8_t *)from + begin;
            int x = 0;
            for (; x + LANE <= count; x += LANE) {
                u8x samples;
                memcpy(&samples, p + x, sizeof samples);
                STORE(middle + x, __builtin_convertvector(samples, i16x) << shift);
            }
            for (; x < count; x++) middle[x] = (int16_t)(p[x] << shift);
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
// by each lane's rest. `whole`: what a lane goes on by itself; `bits`: of the fraction of places. `more`: how many samples
// more than one a lane a block needs, where bits are fewer than NARROW_BITS.
LEAF void NAME(lanes)(const int32_t *p0, const int32_t *p1, const int32_t *p2, int count, int origin, int whole,
                      int halves, int bits, NAME(Blocks) *b) {
    const int less = 16 - bits, shift = (halves ? 3 : 4) + less;
    const int32_t own = whole << bits, zero = (int32_t)((uint32_t)origin << bits);
    for (int r = 0; r < count; r++) {
        int32_t start = (p0[r] >> less) - zero, step = ((p1[r] - p0[r]) >> shift) - own;
        int32_t end = start + (halves ? 7 : 15) * step, low = start < end ? start : end, high = start < end ? end : start;
        int32_t start1 = 0, step1 = 0;
        if (halves) {
            start1 = (p1[r] >> less) - zero - 8 * own;
            step1 = ((p2[r] - p1[r]) >> shift) - own;
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
        if (bits < NARROW_BITS) b->more[r] = (high - from) >> bits;
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
LEAF TX NAME(between)(const T *p, int64_t pitch, u16x rest, int more, int bits) {
    const int far = bits < NARROW_BITS;
    i16x doubled = (i16x)(rest << (15 - bits)), on = far ? (i16x)(rest >= (u16x)LEVEL(every)(1 << bits)) : doubled >> 15;
#if !REAL && WIDTH == 64
    if (far && pitch == 1) {  // all samples in two registers: each lane picks its own
        const u16x lane = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15};
        __m512i all = _mm512_loadu_si512((const void *)p);
        __m256i at = (__m256i)((rest >> bits) + lane), one = _mm256_set1_epi16(1);
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
    for (int e = 2; far && e <= more; e++) {
        const T *q = p + e * pitch;
        on = (i16x)((i16x)(rest >> bits) >= LEVEL(every)(e));
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
// half a block apart; `bits`, `bits_down`: of the fraction of places. All three are known where it is compiled. `done`:
// pixels of the width that are made already.
LEAF void NAME(dense_as)(const NAME(Part) *part, const Places *p, int done, int width, int height, int32_t share, int first,
                         T *sum, int64_t sum_pitch, T *rows, NAME(Blocks) *b, int halves, int bits, int bits_down) {
    const int per = halves ? 2 : 1, count = p->rows, first_row = p->first_row;
    const int64_t pitch = part->pitch;
    for (int k = done / LANE; k * LANE < width; k++) {
        const int32_t *a0 = p->across + (int64_t)k * per * count, *a1 = a0 + count, *a2 = a1 + (halves ? count : 0);
        const int32_t *d0 = p->down + (int64_t)k * per * height, *d1 = d0 + height, *d2 = d1 + (halves ? height : 0);
        int32_t low = d0[0] < d1[0] ? d0[0] : d1[0], high = d0[height - 1] > d1[height - 1] ? d0[height - 1] : d1[height - 1];
        if (d2[0] < low) low = d2[0];
        if (d2[height - 1] > high) high = d2[height - 1];
        int begin = (low >> 16) - 1 - first_row, end = (high >> 16) + 4 - first_row;
        if (end > count) end = count;
        NAME(lanes)(a0 + begin, a1 + begin, a2 + begin, end - begin, part->left, 1, halves, bits, b);
        const T *line = part->pixels + (first_row + begin - part->top) * pitch - 1;
        for (int r = 0; r < end - begin; r++, line += pitch) {
            TX value = NAME(between)(line + b->base[r], 1, NAME(rest)(b, r, halves), bits < NARROW_BITS ? b->more[r] : 1, bits);
            STORE(rows + r * LANE, value);
        }
        NAME(lanes)(d0, d1, d2, height, first_row + begin, 0, halves, bits_down, b);
        T *to = sum + k * LANE;
        for (int y = 0; y < height; y++, to += sum_pitch) {
            TX value = NAME(between)(rows + (b->base[y] - 1) * LANE, LANE, NAME(rest)(b, y, halves),
                                     bits_down < NARROW_BITS ? b->more[y] : 1, bits_down);
            STORE(to, first ? value : NAME(join)(LOAD(to), value, share));
        }
    }
}

#if !REAL && WIDTH == 64
// Two blocks' samples in one register.
LEAF i16w NAME(two)(const T *first, const T *second) {
    __m256i low = _mm256_loadu_si256((const void *)first), high = _mm256_loadu_si256((const void *)second);
    return (i16w)_mm512_inserti64x4(_mm512_castsi256_si512(low), high, 1);
}

// Pairs of lanes of two blocks, or of their halves.
LEAF __m512i NAME(two_words)(int32_t first, int32_t first_half, int32_t second, int32_t second_half, int halves) {
    __m512i words = _mm512_mask_set1_epi32(_mm512_set1_epi32(first), 0xff00, second);
    if (!halves) return words;
    return _mm512_mask_set1_epi32(_mm512_mask_set1_epi32(words, 0x00f0, first_half), 0xf000, second_half);
}

// The same as `between` for the lanes of two blocks; fewer bits only along rows of the source.
LEAF i16w NAME(between_two)(const T *p, const T *q, int64_t pitch, const NAME(Blocks) *b, int r, int halves, int bits) {
    const __m256i block = _mm256_setr_epi16(0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15);
    const __m512i lane = _mm512_broadcast_i64x4(halves ? _mm256_and_si256(block, _mm256_set1_epi16(7)) : block);
    __m512i step = NAME(two_words)(b[0].step[r], b[0].step1[r], b[1].step[r], b[1].step1[r], halves);
    __m512i start = NAME(two_words)(b[0].rest[r], b[0].rest1[r], b[1].rest[r], b[1].rest1[r], halves);
    __m512i rest = _mm512_add_epi16(start, _mm512_mullo_epi16(lane, step));
    __m512i doubled = _mm512_slli_epi16(rest, 15 - bits);
    i16w t = (i16w)_mm512_and_si512(doubled, _mm512_set1_epi16(32767)), s[5];
    if (bits < NARROW_BITS) {  // all samples in two registers: each lane picks its own
        const __m512i own = _mm512_inserti64x4(_mm512_castsi256_si512(block), _mm256_add_epi16(block, _mm256_set1_epi16(32)), 1);
        __m512i all = _mm512_loadu_si512((const void *)p), others = _mm512_loadu_si512((const void *)q);
        __m512i at = _mm512_add_epi16(_mm512_srli_epi16(rest, bits), own);
        for (int k = 0; k < 4; k++, at = _mm512_add_epi16(at, _mm512_set1_epi16(1)))
            s[k] = (i16w)_mm512_permutex2var_epi16(all, at, others);
    } else {
        __mmask32 on = _mm512_movepi16_mask(doubled);
        for (int k = 0; k < 5; k++) s[k] = NAME(two)(p + k * pitch, q + k * pitch);
        for (int k = 0; k < 4; k++) s[k] = (i16w)_mm512_mask_blend_epi16(on, (__m512i)s[k], (__m512i)s[k + 1]);
    }
    return LEVEL(cubic_of_two)(s[0], s[1], s[2], s[3], t);
}

// One view of a tile whose steps down are narrow, two blocks at a time; the same numbers as `dense_as`. Makes whole pairs
// of blocks and returns how many pixels of the width that is.
LEAF int NAME(dense_pairs)(const NAME(Part) *part, const Places *p, int width, int height, int32_t share, int first, T *sum,
                           int64_t sum_pitch, T *rows, NAME(Blocks) *b, int halves, int bits) {
    const int per = halves ? 2 : 1, count = p->rows, first_row = p->first_row;
    const int64_t pitch = part->pitch;
    const i16w joins = (i16w)_mm512_set1_epi16((int16_t)share);
    int k = 0;
    for (; (k + 2) * LANE <= width; k += 2) {
        const int32_t *a = p->across + (int64_t)k * per * count, *d = p->down + (int64_t)k * per * height;
        int32_t low = INT32_MAX, high = INT32_MIN;
        for (int j = 0; j <= 2 * per; j++) {
            low = d[j * height] < low ? d[j * height] : low;
            high = d[(j + 1) * height - 1] > high ? d[(j + 1) * height - 1] : high;
        }
        int begin = (low >> 16) - 1 - first_row, end = (high >> 16) + 4 - first_row;
        if (end > count) end = count;
        a += begin;
        for (int j = 0; j < 2; j++, a += per * count)
            NAME(lanes)(a, a + count, a + per * count, end - begin, part->left, 1, halves, bits, b + j);
        const T *line = part->pixels + (first_row + begin - part->top) * pitch - 1;
        for (int r = 0; r < end - begin; r++, line += pitch) {
            i16w value = NAME(between_two)(line + b[0].base[r], line + b[1].base[r], 1, b, r, halves, bits);
            memcpy(rows + r * 2 * LANE, &value, sizeof value);
        }
        for (int j = 0; j < 2; j++, d += per * height)
            NAME(lanes)(d, d + height, d + per * height, height, first_row + begin, 0, halves, NARROW_BITS, b + j);
        T *to = sum + k * LANE;
        for (int y = 0; y < height; y++, to += sum_pitch) {
            const T *above = rows + (b[0].base[y] - 1) * 2 * LANE, *beside = rows + (b[1].base[y] - 1) * 2 * LANE + LANE;
            i16w mean, value = NAME(between_two)(above, beside, 2 * LANE, b, y, halves, NARROW_BITS);
            if (!first) {
                memcpy(&mean, to, sizeof mean);
                value = mean + LEVEL(share_of_two)(value - mean, joins);
            }
            memcpy(to, &value, sizeof value);
        }
    }
    return k * LANE;
}
#endif

FN void NAME(dense)(const NAME(Part) *part, const Places *p, int spacing, int width, int height, int32_t share, T *sum,
                    int64_t sum_pitch, T *rows, NAME(Blocks) *b) {
    const int first = share == 32768, halves = spacing == 8, narrow_down = p->bits_down == NARROW_BITS;
    int done = 0;
// What is known where it is compiled: whether it is the first view, the spacing of nodes, and the steps across.
#define CHOOSE(form) \
    switch (p->bits_across) { \
        case NARROW_BITS: \
            if (halves) form(first, 1, NARROW_BITS); \
            else if (first) form(1, 0, NARROW_BITS); \
            else form(0, 0, NARROW_BITS); \
            break; \
        case WIDE_BITS: \
            if (halves) form(first, 1, WIDE_BITS); \
            else form(first, 0, WIDE_BITS); \
            break; \
        default: \
            if (halves) form(first, 1, FAR_BITS); \
            else form(first, 0, FAR_BITS); \
    }
#define ONE_BY_ONE(first, halves, bits, bits_down) \
    NAME(dense_as)(part, p, done, width, height, share, first, sum, sum_pitch, rows, b, halves, bits, bits_down)
#define ONES(first, halves, bits) \
    if (narrow_down) ONE_BY_ONE(first, halves, bits, NARROW_BITS); \
    else ONE_BY_ONE(first, halves, bits, WIDE_BITS)
#define PAIRS(first, halves, bits) \
    done = NAME(dense_pairs)(part, p, width, height, share, first, sum, sum_pitch, rows, b, halves, bits)
#if !REAL && WIDTH == 64
    if (narrow_down) CHOOSE(PAIRS)
#endif
    if (done < width) CHOOSE(ONES)
#undef ONES
#undef ONE_BY_ONE
#undef PAIRS
#undef CHOOSE
}

// Four samples of a row for each lane, some of them beyond the plane. `columns`: which ones, -1: none.
FN void NAME(scattered)(const Source *s, const int32_t *columns, const int32_t *y, T *samples) {
    for (int i = 0; i < 4 * LANE; i++) {
        int row = reflected(y[i / 4], s->height, s->border);
        const char *from = (const char *)s->pixels + row * s->pitch;
        if (columns[i] < 0 || row < 0) samples[i] = 0;
#if REAL
        else samples[i] = s->sample == 4 ? ((const float *)from)[columns[i]] : (float)((const uint16_t *)from)[columns[i]];
#else
        else if (s->sample == 1) samples[i] = (T)(((const uint8_t *)from)[columns[i]] << s->fraction);
        else samples[i] = (T)(((const uint16_t *)from)[columns[i]] << s->fraction);
#endif
    }
}

// Four samples of a row for each lane, from columns x of rows y on, all of them in the plane.
LEAF void NAME(fours)(const Source *s, const int32_t *x, const int32_t *y, T *samples) {
    const char *from = (const char *)s->pixels;
#if REAL
    if (s->sample == 4) {
        for (int i = 0; i < LANE; i++) memcpy(samples + 4 * i, from + y[i] * s->pitch + 4 * x[i], 4 * sizeof(float));
        return;
    }
#else
    if (s->sample == 1) {
        uint8_t bytes[4 * LANE];
        for (int i = 0; i < LANE; i++) memcpy(bytes + 4 * i, from + y[i] * s->pitch + x[i], 4);
        for (int i = 0; i < 4 * LANE; i++) samples[i] = bytes[i];
        for (int i = 0; i < 4 * LANE; i += LANE) STORE(samples + i, LOAD(samples + i) << s->fraction);
        return;
    }
#endif
    uint16_t words[4 * LANE];
    for (int i = 0; i < LANE; i++) memcpy(words + 4 * i, from + y[i] * s->pitch + 2 * x[i], 8);
    for (int i = 0; i < 4 * LANE; i++) samples[i] = (T)words[i];
#if !REAL
    for (int i = 0; i < 4 * LANE; i += LANE) STORE(samples + i, LOAD(samples + i) << s->fraction);
#endif
}

// Sixteen results of a block whose first samples are at columns x and rows y, one row of samples after the other.
LEAF TX NAME(gathered)(const Source *s, const int32_t *x, const int32_t *y, i16x across, i16x down, int in) {
    TX lines[4];
#if REAL
    const TX share_x = __builtin_convertvector(across, f32x) * (1.0f / 32768.0f);
    const TX share_y = __builtin_convertvector(down, f32x) * (1.0f / 32768.0f);
#define BETWEEN LEVEL(cubic_real)
#else
    const TX share_x = across, share_y = down;
#define BETWEEN LEVEL(cubic)
#endif
    int32_t columns[4 * LANE];
    for (int i = 0; !in && i < 4 * LANE; i++) columns[i] = reflected(x[i / 4] + i % 4, s->width, s->border);
    for (int j = 0; j < 4; j++) {
        T samples[4 * LANE], q[4][LANE];
        int32_t row[LANE];
        for (int i = 0; i < LANE; i++) row[i] = y[i] + j;
        if (in) NAME(fours)(s, x, row, samples);
        else NAME(scattered)(s, columns, row, samples);
        for (int i = 0; i < LANE; i++)
            for (int n = 0; n < 4; n++) q[n][i] = samples[4 * i + n];
        lines[j] = BETWEEN(LOAD(q[0]), LOAD(q[1]), LOAD(q[2]), LOAD(q[3]), share_x);
    }
    return BETWEEN(lines[0], lines[1], lines[2], lines[3], share_y);
#undef BETWEEN
}

// One view of a tile pixel by pixel: any turn, size or fold.
FN void NAME(gather)(const Source *s, const Views *v, int view, int left, int top, int width, int height,
                     int32_t share, T *sum, int64_t sum_pitch) {
    const double *nodes = v->nodes + 2 * (int64_t)view * v->rows * v->columns;
    int64_t pitch = 2 * (int64_t)v->columns;
    const int bits = v->spacing == 8 ? 3 : 4;
    for (int y = 0; y < height; y++) {
        int row = (top + y - v->top) / v->drop;
        if (row > v->rows - 2) row = v->rows - 2;
        int ahead = top + y - v->top - row * v->drop;
        for (int x = 0; x < width; x += LANE) {
            int32_t at[2][LANE];
            i16x shares[2];
            int in = 1;
            for (int c = 0; c < 2; c++) {
                for (int i = 0; i < LANE; i += v->spacing) {
                    const double *a = nodes + row * pitch + 2 * ((left + x + i - v->left) >> bits) + c, *b = a + pitch;
                    int64_t near = fixed(a[0] + (b[0] - a[0]) * ahead / v->drop);
                    int64_t gone = fixed(a[2] + (b[2] - a[2]) * ahead / v->drop) - near;
                    for (int k = 0; k < v->spacing; k++) at[c][i + k] = (int32_t)(near + ((gone * k) >> bits));
                }
                int32_t low = INT32_MAX, high = INT32_MIN;
                for (int i = 0; i < LANE; i++) {
                    shares[c][i] = (int16_t)((at[c][i] & 65535) >> 2 << 1);
                    at[c][i] = (at[c][i] >> 16) - 1;
                    low = at[c][i] < low ? at[c][i] : low;
                    high = at[c][i] > high ? at[c][i] : high;
                }
                in &= low >= 0 && high + 4 <= (c ? s->height : s->width);
            }
            TX value = in ? NAME(gathered)(s, at[0], at[1], shares[0], shares[1], 1)
                          : NAME(gathered)(s, at[0], at[1], shares[0], shares[1], 0);
            T *to = sum + y * sum_pitch + x;
            STORE(to, share == 32768 ? value : NAME(join)(LOAD(to), value, share));
        }
    }
}

// What `from` gives through taps, the sum of share * from(q + offset), joins the running mean `out`. Both of one pitch.
FN void NAME(draw)(const T *from, const Taps *taps, int32_t share, T *out, int64_t pitch, int width, int height) {
    int64_t offsets[MOST_TAPS];
#if REAL
    for (int n = 0; n < taps->count; n++) offsets[n] = taps->dy[n] * pitch + taps->dx[n];
#else
    for (int n = 0; n < taps->pairs; n++) offsets[n] = taps->pair_dy[n] * pitch + taps->pair_dx[n];
#endif
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
            LEVEL(Sums) s;
            memset(&s, 0, sizeof s);
            for (int n = 0; n < taps->pairs; n++) LEVEL(add_products)(&s, p + offsets[n], taps->pair[n]);
            TX a = LEVEL(rounded)(&s, 0), b = LEVEL(rounded)(&s, 1);
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
        int x = 0;
#define ROUNDED LEVEL(smaller)(LEVEL(larger)((LEVEL(load)(from + x) + add) >> fraction, none), most)
        if (t->sample == 1)
            for (; x + LANE <= width; x += LANE) {
                u8x bytes = __builtin_convertvector(ROUNDED, u8x);
                memcpy(shallow + x, &bytes, LANE);
            }
        else
            for (; x + LANE <= width; x += LANE) LEVEL(store)(deep + x, ROUNDED);
        if (x < width) {
            i16x value = ROUNDED;
            u8x bytes = __builtin_convertvector(value, u8x);
            if (t->sample == 1) memcpy(shallow + x, &bytes, width - x);
            else memcpy(deep + x, &value, (width - x) * sizeof(int16_t));
        }
#undef ROUNDED
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
    NAME(Blocks) blocks[2];
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
        NAME(dense)(part, p, v->spacing, box.width, box.height, share, sum, work->pitch, work->rows, work->blocks);
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
    work->rows = aligned_alloc(64, 2 * MOST_ROWS * LANE * sizeof(T));
    if (!places_begin(&work->places, nodes, rows) || !work->sum || !work->total || !work->rows) return 0;
    if (job->smear_points > 1 && !work->smeared) return 0;
    memset(work->sum, 0, bytes);
    memset(work->total, 0, bytes);
    return 1;
}

static void NAME(end)(NAME(Work) *work) {
    free(work->part.memory);
    free(work->sum);
    free(work->total);
    free(work->smeared);
    free(work->rows);
    places_end(&work->places);
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
