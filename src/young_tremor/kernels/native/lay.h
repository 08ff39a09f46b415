// Included by mean.h: pieces of a picture, each where one view of it looks, laid over each other.

// Where the planes of a piece, alpha last, are seen in a tile of its window, side by side in `seen`.
FN int NAME(look)(const Layer *layer, int planes, int view, NAME(Box) box, T *seen, int64_t plane_size, NAME(Work) *work) {
    Places *p = &work->places;
    NAME(Part) *part = &work->part;
    Source source = layer->source;
    int dense = LEVEL(tile_places)(&layer->views, view, box.left, box.top, box.width, box.height, p);
    int from = (p->first >> 16) - 4, columns = (p->last >> 16) + LANE + 12 - from;
    for (int n = 0; n < planes; n++) {
        T *to = seen + n * plane_size;
        source.pixels = layer->planes[n];
        if (!dense) {
            NAME(gather)(&source, &layer->views, view, box.left, box.top, box.width, box.height, 32768, to, work->pitch);
            continue;
        }
        if (!NAME(fetch)(&source, from, p->first_row, columns, p->rows, part)) return 0;
        NAME(dense)(part, p, layer->views.spacing, box.width, box.height, 32768, to, work->pitch, work->rows, work->blocks);
    }
    return 1;
}

// Premultiplied samples over others, in place; `alpha` is kept within 0 ... one, and all are drawn by the layer's opacity.
FN void NAME(cover)(const Layer *layer, T *below, T *above, T *alpha, int count) {
#if REAL
    for (int x = 0; x < count; x++) below[x] = below[x] * (1.0f - alpha[x]) + above[x] * layer->part;
#else
    if (layer->share < 32768)
        for (int x = 0; x < count; x += LANE) STORE(above + x, LEVEL(share)(LOAD(above + x), LEVEL(every)(layer->share)));
    LEVEL(over)(below, above, alpha, count);
#endif
}

// One tile of a piece over a canvas.
FN void NAME(lay_tile)(const Layer *layer, const Canvas *canvas, NAME(Box) box, int columns, T *seen, int64_t plane_size,
                       int64_t pitch) {
    T *alpha = seen + (canvas->planes - 1) * plane_size;
    for (int y = 0; y < box.height; y++, alpha += pitch) {
        T *line = alpha;
#if REAL
        for (int x = 0; x < columns; x++) {
            float cover = line[x] < 0.0f ? 0.0f : line[x] > 1.0f ? 1.0f : line[x];
            line[x] = cover * layer->part;
        }
#else
        for (int x = 0; x < columns; x += LANE) {
            i16x cover = LEVEL(smaller)(LEVEL(larger)(LOAD(line + x), LEVEL(every)(0)), LEVEL(every)(8192));
            if (layer->share < 32768) cover = LEVEL(share)(cover, LEVEL(every)(layer->share));
            STORE(line + x, cover);
        }
#endif
        int64_t row = layer->top + box.top + y - canvas->top;
        for (int n = 0; n < canvas->planes; n++) {
            T *below = (T *)((char *)canvas->pixels[n] + row * canvas->pitch[n]) + layer->left + box.left - canvas->left;
            T *above = seen + n * plane_size + y * pitch;
            if (n < canvas->planes - 1) NAME(cover)(layer, below, above, line, columns);
#if REAL
            else for (int x = 0; x < columns; x++) below[x] = below[x] * (1.0f - line[x]) + line[x];
#else
            else LEVEL(over)(below, line, line, columns);
#endif
        }
    }
}

// All pieces of a canvas at one view. Zero, or one where there is not enough memory.
static int NAME(lay)(const Layer *layers, int count, int view, const Canvas *canvas) {
    NAME(Work) work;
    memset(&work, 0, sizeof work);
    work.pitch = TILE_WIDTH + 4 * LANE;
    int64_t plane_size = work.pitch * (TILE_HEIGHT + 1);
    T *seen = aligned_alloc(64, (plane_size * canvas->planes * sizeof(T) + 63) & ~(size_t)63);
    work.rows = aligned_alloc(64, 2 * MOST_ROWS * LANE * sizeof(T));
    int ready = places_begin(&work.places, TILE_WIDTH / 8 + 2, TILE_HEIGHT) && seen && work.rows;
    for (const Layer *layer = layers; layer < layers + count && ready; layer++)
        for (int top = 0; top < layer->height && ready; top += TILE_HEIGHT)
            for (int left = 0; left < layer->width && ready; left += TILE_WIDTH) {
                int columns = layer->width - left < TILE_WIDTH ? layer->width - left : TILE_WIDTH;
                int rows = layer->height - top < TILE_HEIGHT ? layer->height - top : TILE_HEIGHT;
                NAME(Box) box = {left, top, whole_blocks(columns), rows};
                ready = NAME(look)(layer, canvas->planes, view, box, seen, plane_size, &work);
                if (ready) NAME(lay_tile)(layer, canvas, box, columns, seen, plane_size, work.pitch);
            }
    NAME(end)(&work);
    free(seen);
    return !ready;
}
