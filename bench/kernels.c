/* The bench's hot kernels in C, for comparison in the same run: least CPU time of 15 repeats each, ms. */
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

static void deferred(int n, int joins, const int *owner, const int *neighbour, const double *flux, const double *weight, const double *ox, const double *oy, const double *nx, const double *ny, const double *tx, const double *ty, double nu, const double *gx, const double *gy, double *r) {
  memset(r, 0, 8 * (size_t)n);
  for (int f = 0; f < joins; f++) {
    int o = owner[f], p = neighbour[f];
    double F = flux[f], w = weight[f], v = 1 - w;
    double fx = w * gx[o] + v * gx[p], fy = w * gy[o] + v * gy[p];
    double high = F >= 0 ? gx[o] * ox[f] + gy[o] * oy[f] : gx[p] * nx[f] + gy[p] * ny[f];
    double s = F * high - nu * (fx * tx[f] + fy * ty[f]);
    r[o] -= s;
    r[p] += s;
  }
}

static void upwind(int entries, int joins, const int *owner, const int *neighbour, const int *diag, const int *oe, const int *ne, const double *flux, const double *conductance, double nu, double *a) {
  memset(a, 0, 8 * (size_t)entries);
  for (int f = 0; f < joins; f++) {
    double F = flux[f], d = nu * conductance[f], out = F > 0 ? F : 0, into = F < 0 ? F : 0;
    a[oe[f]] += into - d;
    a[ne[f]] -= out + d;
    a[diag[owner[f]]] += d - into;
    a[diag[neighbour[f]]] += d + out;
  }
}

static void gas_gradients(int n, int joins, const int *pair, const double *l, const double *w, double *s, double *low, double *high) {
  memset(s, 0, 64 * (size_t)n);
  memcpy(low, w, 32 * (size_t)n);
  memcpy(high, w, 32 * (size_t)n);
  for (int f = 0; f < joins; f++) {
    int o = 4 * pair[2 * f], p = 4 * pair[2 * f + 1];
    const double *c = l + 4 * f;
    for (int k = 0; k < 4; k++) {
      int i = o + k, j = p + k;
      double a = w[i], b = w[j], d = b - a;
      s[2 * i] += c[0] * d;
      s[2 * i + 1] += c[1] * d;
      s[2 * j] += c[2] * d;
      s[2 * j + 1] += c[3] * d;
      if (b < low[i]) low[i] = b;
      if (b > high[i]) high[i] = b;
      if (a < low[j]) low[j] = a;
      if (a > high[j]) high[j] = a;
    }
  }
}

static inline void gas_bound(int i, double reach, const double *w, const double *low, const double *high, const double *floor, double *share) {
  double room = (reach > 0 ? high[i] : low[i]) - w[i];
  double y = room * room + floor[i], top = y + 2 * reach * room, bottom = y + 2 * reach * reach + reach * room;
  double s = bottom > 0 ? top / bottom : 1;
  if (s < share[i]) share[i] = s;
}

static void gas_limit(int n, int joins, const int *pair, const double *arm, const double *w, const double *s, const double *low, const double *high, const double *floor, double *share) {
  for (int i = 0; i < 4 * n; i++) share[i] = 1;
  for (int f = 0; f < joins; f++) {
    int o = 4 * pair[2 * f], p = 4 * pair[2 * f + 1];
    const double *a = arm + 4 * f;
    for (int k = 0; k < 4; k++) {
      gas_bound(o + k, s[2 * (o + k)] * a[0] + s[2 * (o + k) + 1] * a[1], w, low, high, floor, share);
      gas_bound(p + k, s[2 * (p + k)] * a[2] + s[2 * (p + k) + 1] * a[3], w, low, high, floor, share);
    }
  }
}

static inline void gas_seen(double *q, const double *w, const double *s, const double *share, int c, double x, double y) {
  for (int k = 0; k < 4; k++) q[k] = w[4 * c + k] + share[4 * c + k] * (s[8 * c + 2 * k] * x + s[8 * c + 2 * k + 1] * y);
  if (q[0] > 0 && q[3] > 0) return;
  for (int k = 0; k < 4; k++) q[k] = w[4 * c + k];
}

static void gas_fluxes(int joins, double g, const int *pair, const double *normal, const double *arm, const double *w, const double *s, const double *share, double *r, double *speed) {
  for (int f = 0; f < joins; f++) {
    int o = pair[2 * f], n = pair[2 * f + 1];
    double nx = normal[3 * f], ny = normal[3 * f + 1], area = normal[3 * f + 2], l[4], t[4], out[4];
    gas_seen(l, w, s, share, o, arm[4 * f], arm[4 * f + 1]);
    gas_seen(t, w, s, share, n, arm[4 * f + 2], arm[4 * f + 3]);
    double ql = l[1] * nx + l[2] * ny, qr = t[1] * nx + t[2] * ny;
    double el = l[3] / (g - 1) + 0.5 * l[0] * (l[1] * l[1] + l[2] * l[2]), er = t[3] / (g - 1) + 0.5 * t[0] * (t[1] * t[1] + t[2] * t[2]);
    double cl = sqrt(g * l[3] / l[0]), cr = sqrt(g * t[3] / t[0]), wl = sqrt(l[0]), wr = sqrt(t[0]), part = 1 / (wl + wr);
    double u = (wl * l[1] + wr * t[1]) * part, v = (wl * l[2] + wr * t[2]) * part, h = (wl * (el + l[3]) / l[0] + wr * (er + t[3]) / t[0]) * part;
    double q = u * nx + v * ny, c2 = (g - 1) * (h - 0.5 * (u * u + v * v)), c = sqrt(c2 > 1e-12 * h ? c2 : 1e-12 * h);
    double slow = ql - cl < q - c ? ql - cl : q - c, fast = qr + cr > q + c ? qr + cr : q + c;
    if (slow >= 0) {
      double m = l[0] * ql;
      out[0] = m, out[1] = m * l[1] + l[3] * nx, out[2] = m * l[2] + l[3] * ny, out[3] = ql * (el + l[3]);
    } else if (fast <= 0) {
      double m = t[0] * qr;
      out[0] = m, out[1] = m * t[1] + t[3] * nx, out[2] = m * t[2] + t[3] * ny, out[3] = qr * (er + t[3]);
    } else {
      double ml = l[0] * (slow - ql), mr = t[0] * (fast - qr), middle = (t[3] - l[3] + ml * ql - mr * qr) / (ml - mr);
      int left = middle >= 0;
      const double *k = left ? l : t;
      double qk = left ? ql : qr, ek = left ? el : er, mk = left ? ml : mr, sk = left ? slow : fast;
      double p = k[3] + mk * (middle - qk), i = 1 / (sk - middle);
      out[0] = mk * i * middle;
      out[1] = (mk * k[1] + (p - k[3]) * nx) * i * middle + p * nx;
      out[2] = (mk * k[2] + (p - k[3]) * ny) * i * middle + p * ny;
      out[3] = (((sk - qk) * ek - k[3] * qk + p * middle) * i + p) * middle;
    }
    for (int k = 0; k < 4; k++) {
      r[4 * o + k] -= out[k] * area;
      r[4 * n + k] += out[k] * area;
    }
    double wave = (fabs(0.5 * ((l[1] + t[1]) * nx + (l[2] + t[2]) * ny)) + 0.5 * (cl + cr)) * area;
    speed[o] += wave;
    speed[n] += wave;
  }
}

#define TIME(name, code)                        \
  {                                             \
    double least = 1e300;                       \
    for (int r = 0; r < 18; r++) {              \
      double t = now_ms();                      \
      code;                                     \
      t = now_ms() - t;                         \
      if (r >= 3 && t < least) least = t;       \
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
  int *oe = read_array(f, 4, joins), *ne = read_array(f, 4, joins);
  double *of[9];
  for (int k = 0; k < 9; k++) of[k] = read_array(f, 8, joins);
  TIME("deferred", deferred(n, joins, owner, neighbour, of[0], of[1], of[3], of[4], of[5], of[6], of[7], of[8], 0.01, gx, gy, z))
  TIME("upwind", upwind(entries, joins, owner, neighbour, diag, oe, ne, of[0], of[2], 0.01, a))
  double sum = y[n / 2] + gx[n / 2] + z[n / 2] + a[entries / 2];
  int copied = 1 << 25;
  double *from = malloc(copied), *to = malloc(copied);
  memset(from, 1, copied);
  TIME("copy-32MB", memcpy(to, from, copied))
  if (fread(head, 4, 2, f) != 2) return 1;
  n = head[0], joins = head[1];
  int *pair = read_array(f, 4, 2 * (size_t)joins);
  double *gl = read_array(f, 8, 4 * (size_t)joins), *normal = read_array(f, 8, 3 * (size_t)joins), *arm = read_array(f, 8, 4 * (size_t)joins);
  double *w = read_array(f, 8, 4 * (size_t)n), *floor = read_array(f, 8, 4 * (size_t)n);
  double *slope = calloc(8 * (size_t)n, 8), *low = calloc(4 * (size_t)n, 8), *high = calloc(4 * (size_t)n, 8), *share = calloc(4 * (size_t)n, 8);
  double *r4 = calloc(4 * (size_t)n, 8), *speed = calloc(n, 8);
  TIME("gas-gradients", gas_gradients(n, joins, pair, gl, w, slope, low, high))
  TIME("gas-limiter", gas_limit(n, joins, pair, arm, w, slope, low, high, floor, share))
  TIME("gas-fluxes", gas_fluxes(joins, 1.4, pair, normal, arm, w, slope, share, r4, speed))
  printf("check %.9e\n", sum + to[copied / 16]);
  return 0;
}
