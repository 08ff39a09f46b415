// Runs requests that a test wrote down on another kind of processor: structs as they are, then what they point to.
#include <stdio.h>
#include <stdlib.h>

#include "kernels.h"

int kernels_mean(Mean *job, int level);

static void *taken(size_t bytes) {
    void *out = malloc(bytes + 64);
    if (!out || fread(out, 1, bytes, stdin) != bytes) exit(2);
    return out;
}

int main(void) {
    Mean job;
    while (fread(&job, sizeof job, 1, stdin) == 1) {
        Views *v = &job.views;
        job.source.pixels = taken((size_t)job.source.pitch * job.source.height);
        v->nodes = taken(sizeof(double) * 2 * v->views * v->rows * v->columns);
        v->weights = taken(sizeof(int32_t) * v->views);
        Trail *trails = taken(sizeof(Trail) * job.trails);
        for (int k = 0; k < job.trails; k++)
            if (trails[k].points > 1)
                trails[k].ways = taken(sizeof(double) * 2 * trails[k].across * trails[k].down * trails[k].points);
        job.trail = trails;
        if (job.smear_points > 1) job.smear = taken(sizeof(double) * 2 * job.smear_points);
        size_t bytes = (size_t)job.target.pitch * job.target.height;
        job.target.pixels = malloc(bytes);
        if (kernels_mean(&job, 1)) return 1;
        fwrite(job.target.pixels, 1, bytes, stdout);
    }
    return 0;
}
