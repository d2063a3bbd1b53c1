/* Carries out recorded calls on the image of a memory: replay IMAGE CALLS ROUNDS RESULT. Calls lie as doubles: the kind, how many numbers follow, those. */

static double now_ms(clockid_t clock) {
  struct timespec t;
  clock_gettime(clock, &t);
  return t.tv_sec * 1e3 + t.tv_nsec * 1e-6;
}

static void *whole(const char *name, size_t *length) {
  FILE *f = fopen(name, "rb");
  if (!f) exit(1);
  fseek(f, 0, SEEK_END);
  *length = (size_t)ftell(f);
  rewind(f);
  void *p = malloc(*length);
  if (!p || fread(p, 1, *length, f) != *length) exit(1);
  fclose(f);
  return p;
}

static double of_kind[KINDS];

static double carried_out(const double *calls, size_t count, int each) {
  double start = now_ms(CLOCK_THREAD_CPUTIME_ID);
  for (size_t k = 0; k < count;) {
    int kind = (int)calls[k];
    if (each) {
      double t = now_ms(CLOCK_MONOTONIC);
      call(kind, calls + k + 2);
      of_kind[kind] += now_ms(CLOCK_MONOTONIC) - t;
    } else {
      call(kind, calls + k + 2);
    }
    k += 2 + (size_t)calls[k + 1];
  }
  return now_ms(CLOCK_THREAD_CPUTIME_ID) - start;
}

int main(int count, char **given) {
  if (count < 5) return 2;
  size_t bytes, length;
  char *image = whole(given[1], &bytes);
  double *calls = whole(given[2], &length);
  if (bytes > SIZE) return 3;
  double least = INFINITY, least_of[KINDS];
  for (int k = 0; k < KINDS; k++) least_of[k] = INFINITY;
  for (int round = 0; round < atoi(given[3]); round++) {
    memcpy(M, image, bytes);
    double t = carried_out(calls, length / 8, 0);
    if (t < least) least = t;
    if (round == 0 && strcmp(given[4], "-")) {
      FILE *f = fopen(given[4], "wb");
      if (!f || fwrite(M, 1, bytes, f) != bytes) return 4;
      fclose(f);
    }
    memcpy(M, image, bytes);
    memset(of_kind, 0, sizeof of_kind);
    carried_out(calls, length / 8, 1);
    for (int k = 0; k < KINDS; k++) if (of_kind[k] < least_of[k]) least_of[k] = of_kind[k];
  }
  printf("%.6f", least);
  for (int k = 0; k < KINDS; k++) printf(" %.6f", least_of[k]);
  printf("\n");
  return 0;
}
