// Included by level.h: where the tiles of a view look. Doubles here are NumPy's, operation by operation.

// The source rows (Q16) of a row of nodes, and how far they go on from one result row to the next.
FN void LEVEL(node_rows)(const double *nodes, int64_t pitch, int count, int drop, int32_t *restrict at, int32_t *restrict step) {
    for (int j = 0; j < count; j++) {
        double from = nodes[2 * j + 1], to = nodes[pitch + 2 * j + 1];
        at[j] = fixed(from);
        step[j] = fixed((to - from) / drop);
    }
}

// The source columns (Q16) of a row of nodes at the first whole source row below each node, `begins`, and how far they
// go on from one source row to the next. `ends`: the first source row that belongs to the next row of nodes.
FN void LEVEL(node_columns)(const double *nodes, int64_t pitch, int count, int32_t *restrict begins, int32_t *restrict ends,
                            int32_t *restrict at, int32_t *restrict step) {
    for (int j = 0; j < count; j++) {
        double x = nodes[2 * j], y = nodes[2 * j + 1], below = nodes[pitch + 2 * j + 1];
        double slope = (nodes[pitch + 2 * j] - x) / (below - y);
        begins[j] = (fixed(y) >> 16) + 1;
        step[j] = fixed(slope);
        at[j] = fixed(x + (begins[j] - y) * slope);
        ends[j] = (int32_t)ceil(below > -20000.0 ? below < 20000.0 ? below : 20000.0 : -20000.0);
    }
}

// Columns of nodes: their source rows (Q16) at each result row.
FN void LEVEL(rows_down)(const Views *v, const double *nodes, int top, int height, Places *p) {
    const int count = p->nodes, drop = v->drop, last = v->rows - 2;
    const int64_t pitch = 2 * (int64_t)v->columns;
    int y = 0;
    while (y < height) {
        int row = (top + y - v->top) / drop;
        if (row > last) row = last;
        int ahead = top + y - v->top - row * drop, length = row == last ? height - y : drop - ahead;
        if (length > height - y) length = height - y;
        LEVEL(node_rows)(nodes + row * pitch, pitch, count, drop, p->at, p->step);
        for (int j = 0; j < count; j++) {
            int32_t *down = p->down + (int64_t)j * height + y, step = p->step[j], from = p->at[j] + ahead * step;
            for (int k = 0; k < length; k++) down[k] = from + k * step;
        }
        y += length;
    }
}

// The same columns: their source columns (Q16) at each source row, from rows of nodes that go down the source. Returns
// zero where they do not.
FN int LEVEL(columns_across)(const Views *v, const double *nodes, int row, Places *p) {
    const int count = p->nodes, rows = p->rows, end = p->first_row + rows;
    const int64_t pitch = 2 * (int64_t)v->columns;
    for (int j = 0; j < count; j++)
        while (row > 0 && p->first_row < nodes[row * pitch + 2 * j + 1]) row--;
    for (int j = 0; j < count; j++) p->filled[j] = 0;
    for (int finished = 0; !finished; row++) {
        const int last = row == v->rows - 2;
        for (int j = 0; j < count; j++)
            if (!(nodes[(row + 1) * pitch + 2 * j + 1] > nodes[row * pitch + 2 * j + 1])) return 0;
        LEVEL(node_columns)(nodes + row * pitch, pitch, count, p->begins, p->ends, p->at, p->step);
        finished = 1;
        for (int j = 0; j < count; j++) {
            int done = p->filled[j], until = last || p->ends[j] > end ? rows : p->ends[j] - p->first_row;
            if (until < rows) finished = 0;
            if (until <= done) continue;
            int32_t *across = p->across + (int64_t)j * rows + done, step = p->step[j];
            int32_t from = p->at[j] + (p->first_row + done - p->begins[j]) * step;
            for (int k = 0; k < until - done; k++) across[k] = from + k * step;
            p->filled[j] = until;
        }
    }
    return 1;
}

// The least and the most by which steps from one column of nodes, each of `length` places, to the next differ from `whole`.
FN void LEVEL(steps)(const int32_t *at, int nodes, int length, int32_t whole, int32_t *shortest, int32_t *longest) {
    int32_t least = 0, most = 0;
    for (int64_t k = 0; k < (int64_t)(nodes - 1) * length; k++) {
        int32_t step = at[k + length] - at[k] - whole;
        least = step < least ? step : least;
        most = step > most ? step : most;
    }
    *shortest = least;
    *longest = most;
}

// Whether a tile can be made of dense blocks, and the places if so. Tests every node that the tile touches.
FN int LEVEL(tile_places)(const Views *v, int view, int left, int top, int width, int height, Places *p) {
    const double *nodes = v->nodes + 2 * ((int64_t)view * v->rows * v->columns + (left - v->left) / v->spacing);
    const int64_t pitch = 2 * (int64_t)v->columns;
    int count = (width + LANE - 1) / LANE * LANE / v->spacing + 1;
    int row = (top - v->top) / v->drop, last_row = (top + height - 1 - v->top) / v->drop + 1;
    if (last_row > v->rows - 1) last_row = v->rows - 1;
    if (row > v->rows - 2) row = v->rows - 2;
    int begin = row > 0 ? row - 1 : 0, end = last_row < v->rows - 1 ? last_row + 1 : last_row;
    const double least = 0.1 * v->drop, most = 4.0 * v->drop;
    for (int i = begin; i < end; i++) {
        const double *a = nodes + i * pitch, *b = a + pitch;
        int beyond = 0;
        for (int j = 0; j < 2 * count; j += 2) {
            double gone = b[j + 1] - a[j + 1], slope = fabs(b[j] - a[j]), x = fabs(a[j]), y = fabs(a[j + 1]);
            beyond |= !(gone >= least) | !(gone <= most) | !(slope <= most) | !(x < 15000.0) | !(y < 15000.0);
        }
        if (beyond) return 0;
    }
    p->nodes = count;
    LEVEL(rows_down)(v, nodes, top, height, p);
    int32_t low = INT32_MAX, high = INT32_MIN;
    for (int j = 0; j < count; j++) {
        const int32_t *down = p->down + (int64_t)j * height;
        low = down[0] < low ? down[0] : low;
        high = down[height - 1] > high ? down[height - 1] : high;
    }
    p->first_row = (low >> 16) - 2;
    p->rows = (high >> 16) + 5 - p->first_row;
    if (p->rows > MOST_ROWS || !LEVEL(columns_across)(v, nodes, row, p)) return 0;
    const int32_t *places = p->across;
    int32_t first = INT32_MAX, last = INT32_MIN;
    for (int64_t k = 0; k < (int64_t)count * p->rows; k++) {
        first = places[k] < first ? places[k] : first;
        last = places[k] > last ? places[k] : last;
    }
    p->first = first;
    p->last = last;
    int32_t shortest, longest, up, down;
    LEVEL(steps)(p->across, count, p->rows, v->spacing << 16, &shortest, &longest);
    LEVEL(steps)(p->down, count, height, 0, &up, &down);
    const int32_t unit = v->spacing * 4, narrow = NARROW_STEP * unit, wide = MOST_STEP * unit;
    p->bits_down = -up <= narrow && down <= narrow ? NARROW_BITS : WIDE_BITS;
    p->bits_across = -shortest > wide ? FAR_BITS : -shortest > narrow || longest > narrow ? WIDE_BITS : NARROW_BITS;
    if (p->bits_across > p->bits_down) p->bits_across = p->bits_down;
    return -shortest <= LEAST_STEP * unit && longest <= wide && -up <= wide && down <= wide;
}
