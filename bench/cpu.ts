/** CPU time of the process, user and system, over one piece of work, s. */
export function cpuSeconds(work: () => unknown): number {
  const before = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1e6;
}
