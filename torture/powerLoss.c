/* Keeps, in the folder MARKPOST_ON_DISK, of every file what was on the disk at its last fsync: what a machine would
 * have after the power failed. Loaded before the C library (LD_PRELOAD), it copies a file whenever it is synchronised. */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <fcntl.h>
#include <limits.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static void keep(int fd) {
  const char *folder = getenv("MARKPOST_ON_DISK");
  char link[64], path[PATH_MAX], copy[PATH_MAX], part[PATH_MAX];
  struct stat facts;
  if (!folder || fstat(fd, &facts) != 0 || !S_ISREG(facts.st_mode)) return;
  snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
  ssize_t length = readlink(link, path, sizeof path - 1);
  if (length <= 0) return;
  path[length] = 0;
  const char *name = strrchr(path, '/');
  if (!name || strncmp(name + 1, "markpost.db", 11) != 0) return;
  snprintf(copy, sizeof copy, "%s%s", folder, name);
  snprintf(part, sizeof part, "%s%s.part", folder, name);
  int in = open(path, O_RDONLY), out = open(part, O_WRONLY | O_CREAT | O_TRUNC, 0600);
  char buffer[1 << 16];
  ssize_t got;
  while (in >= 0 && out >= 0 && (got = read(in, buffer, sizeof buffer)) > 0)
    if (write(out, buffer, (size_t)got) != got) break;
  if (in >= 0) close(in);
  if (out >= 0) close(out);
  rename(part, copy);
}

int fsync(int fd) {
  static int (*real)(int);
  if (!real) real = (int (*)(int))dlsym(RTLD_NEXT, "fsync");
  int result = real(fd);
  if (result == 0) keep(fd);
  return result;
}

int fdatasync(int fd) {
  static int (*real)(int);
  if (!real) real = (int (*)(int))dlsym(RTLD_NEXT, "fdatasync");
  int result = real(fd);
  if (result == 0) keep(fd);
  return result;
}

/* A file that is taken away is gone after a power loss as well: SQLite synchronises the folder when it must be. */
int unlink(const char *path) {
  static int (*real)(const char *);
  if (!real) real = (int (*)(const char *))dlsym(RTLD_NEXT, "unlink");
  const char *folder = getenv("MARKPOST_ON_DISK"), *name = strrchr(path, '/');
  char copy[PATH_MAX];
  if (folder && name && strncmp(name + 1, "markpost.db", 11) == 0) {
    snprintf(copy, sizeof copy, "%s%s", folder, name);
    real(copy);
  }
  return real(path);
}
