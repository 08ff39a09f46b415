// Included by level.h: where the tiles of a view look. Doubles here are NumPy's, operation by operation.

// One column of nodes: its source rows at result rows (Q16).
FN void LEVEL(column_down)(const Views *v, const double *nodes, int column, int top, int height, int32_t *down) {
    int drop = v->drop, y = 0;
    while (y < height) {
        int row = (top + y - v->top) / drop;
        if (row > v->rows - 2) row = v->rows - 2;
        int ahead = top + y - v->top - row * drop;
        const double *a = nodes + 2 * ((int64_t)row * v->columns + column), *b = a + 2 * (int64_t)v->columns;
        int32_t from = fixed(a[1]), step = fixed((b[1] - a[1]) / drop);
        int until = row == v->rows - 2 ? height : y + drop - ahead;
        if (until > height) until = height;
        for (int k = 0; k < until - y; k++) down[y + k] = from + (ahead + k) * step;
        y = until;
    }
}

// The same column: its source columns at source rows (Q16). Rows of nodes must go down the source.
FN void LEVEL(column_across)(const Views *v, const double *nodes, int column, int row, int first, int count, int32_t *out) {
    int64_t pitch = 2 * (int64_t)v->columns;
    const double *at = nodes + 2 * (int64_t)column;
    int done = 0;
    while (done < count) {
        double y = first + done;
        while (row > 0 && y < at[row * pitch + 1]) row--;
        while (row < v->rows - 2 && y >= at[(row + 1) * pitch + 1]) row++;
        const double *a = at + row * pitch, *b = a + pitch;
        double slope = (b[0] - a[0]) / (b[1] - a[1]);
        int begins = (fixed(a[1]) >> 16) + 1;
        int32_t step = fixed(slope), from = fixed(a[0] + (begins - a[1]) * slope);
        int until = count;
        if (row < v->rows - 2) {
            int ends = (fixed(b[1]) >> 16) + 1 - first;
            if (ends < until) until = ends;
            if (until <= done) until = done + 1;
        }
        int ahead = first + done - begins;
        for (int k = 0; k < until - done; k++) out[done + k] = from + (ahead + k) * step;
        done = until;
    }
}

// Whether a tile can be made of dense blocks, and the places if so. Tests every node that the tile touches.
FN int LEVEL(tile_places)(const Views *v, int view, int left, int top, int width, int height, Places *p) {
    const double *nodes = v->nodes + 2 * (int64_t)view * v->rows * v->columns;
    int first = (left - v->left) / v->spacing, nodes_across = (width + LANE - 1) / LANE * LANE / v->spacing + 1;
    int row = (top - v->top) / v->drop, last_row = (top + height - 1 - v->top) / v->drop + 1;
    if (last_row > v->rows - 1) last_row = v->rows - 1;
    if (row > v->rows - 2) row = v->rows - 2;
    int begin = row > 0 ? row - 1 : 0, end = last_row < v->rows - 1 ? last_row + 1 : last_row;
    double least = 0.25 * v->drop, most = 4.0 * v->drop;
    for (int i = begin; i < end; i++)
        for (int j = 0; j < nodes_across; j++) {
            const double *a = nodes + 2 * ((int64_t)i * v->columns + first + j), *b = a + 2 * (int64_t)v->columns;
            double gone = b[1] - a[1], slope = b[0] - a[0];
            if (!(gone >= least && gone <= most && fabs(slope) <= most && fabs(a[0]) < 15000.0 && fabs(a[1]) < 15000.0))
                return 0;
        }
    int32_t low = INT32_MAX, high = INT32_MIN;
    for (int j = 0; j < nodes_across; j++) {
        int32_t *down = p->down + (int64_t)j * height;
        LEVEL(column_down)(v, nodes, first + j, top, height, down);
        if (down[0] < low) low = down[0];
        if (down[height - 1] > high) high = down[height - 1];
    }
    p->nodes = nodes_across;
    p->first_row = (low >> 16) - 2;
    p->rows = (high >> 16) + 5 - p->first_row;
    if (p->rows > MOST_ROWS) return 0;
    int32_t whole = v->spacing << 16, least_step = 0, most_step = 0, least_drop = 0, most_drop = 0;
    p->first = INT32_MAX;
    p->last = INT32_MIN;
    for (int j = 0; j < nodes_across; j++) {
        int count = p->rows;
        int32_t *across = p->across + (int64_t)j * count, left_most = p->first, right_most = p->last;
        LEVEL(column_across)(v, nodes, first + j, row, p->first_row, count, across);
        for (int r = 0; r < count; r++) {
            left_most = across[r] < left_most ? across[r] : left_most;
            right_most = across[r] > right_most ? across[r] : right_most;
        }
        p->first = left_most;
        p->last = right_most;
        if (!j) continue;
        for (int r = 0; r < count; r++) {
            int32_t step = across[r] - across[r - count] - whole;
            least_step = step < least_step ? step : least_step;
            most_step = step > most_step ? step : most_step;
        }
        const int32_t *down = p->down + (int64_t)j * height;
        for (int y = 0; y < height; y++) {
            int32_t step = down[y] - down[y - height];
            least_drop = step < least_drop ? step : least_drop;
            most_drop = step > most_drop ? step : most_drop;
        }
    }
    int32_t across = -least_step > most_step ? -least_step : most_step, drop = -least_drop > most_drop ? -least_drop : most_drop;
    p->wide_across = across > NARROW_STEP * v->spacing * 4;
    p->wide_down = drop > NARROW_STEP * v->spacing * 4;
    return across <= MOST_STEP * v->spacing * 4 && drop <= MOST_STEP * v->spacing * 4;
}
