/* The bench's hot kernels in C, for comparison in the same run: least CPU time of 40 repeats each, ms. */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

static double now_ms(void) {
  struct timespec t;
  clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
  return t.tv_sec * 1e3 + t.tv_nsec * 1e-6;
}

static void *read_array(FILE *f, size_t size, size_t count) {
  void *p = malloc(size * count);
  if (fread(p, size, count, f) != count) exit(1);
  return p;
}

static void multiply(int n, const int *start, const int *col, const double *a, const double *x, double *y) {
  for (int i = 0; i < n; i++) {
    double s = 0;
    for (int k = start[i]; k < start[i + 1]; k++) s += a[k] * x[col[k]];
    y[i] = s;
  }
}

static void sweep_pair(int n, const int *start, const int *col, const int *diag, const double *a, const double *b1, const double *b2, double *x1, double *x2) {
  for (int turn = 0; turn < 2; turn++)
    for (int q = 0; q < n; q++) {
      int i = turn ? n - 1 - q : q;
      double r1 = b1[i], r2 = b2[i];
      for (int k = start[i]; k < start[i + 1]; k++) {
        r1 -= a[k] * x1[col[k]];
        r2 -= a[k] * x2[col[k]];
      }
      double inverse = 1 / a[diag[i]];
      x1[i] += r1 * inverse;
      x2[i] += r2 * inverse;
    }
}

static void gradient(int n, int joins, const int *owner, const int *neighbour, const double *l, const double *q, double *gx, double *gy) {
  memset(gx, 0, 8 * (size_t)n);
  memset(gy, 0, 8 * (size_t)n);
  for (int f = 0; f < joins; f++) {
    int o = owner[f], p = neighbour[f];
    double d = q[p] - q[o];
    gx[o] += l[4 * f] * d;
    gy[o] += l[4 * f + 1] * d;
    gx[p] += l[4 * f + 2] * d;
    gy[p] += l[4 * f + 3] * d;
  }
}

#define TIME(name, code)                        \
  {                                             \
    double least = 1e300;                       \
    for (int r = 0; r < 45; r++) {              \
      double t = now_ms();                      \
      code;                                     \
      t = now_ms() - t;                         \
      if (r >= 5 && t < least) least = t;       \
    }                                           \
    printf("%s %.4f\n", name, least);           \
  }

int main(int argc, char **argv) {
  if (argc < 2) return 1;
  FILE *f = fopen(argv[1], "rb");
  int head[3];
  if (!f || fread(head, 4, 3, f) != 3) return 1;
  int n = head[0], joins = head[1], entries = head[2];
  int *start = read_array(f, 4, n + 1), *col = read_array(f, 4, entries), *diag = read_array(f, 4, n);
  int *owner = read_array(f, 4, joins), *neighbour = read_array(f, 4, joins);
  double *a = read_array(f, 8, entries), *l = read_array(f, 8, 4 * (size_t)joins), *x = read_array(f, 8, n);
  double *y = calloc(n, 8), *z = calloc(n, 8), *gx = calloc(n, 8), *gy = calloc(n, 8);
  TIME("multiply", multiply(n, start, col, a, x, y))
  TIME("sweep", { memset(y, 0, 8 * (size_t)n); memset(z, 0, 8 * (size_t)n); sweep_pair(n, start, col, diag, a, x, x, y, z); })
  TIME("gradient", gradient(n, joins, owner, neighbour, l, x, gx, gy))
  printf("check %.9e\n", y[n / 2] + gx[n / 2]);
  return 0;
}
