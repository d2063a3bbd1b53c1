/** CPU time of the process, user and system, over one piece of work, s. */
export function cpuSeconds(work: () => unknown): number {
  const before = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1e6;
}

/** The least of some times. */
export const fastest = (times: number, work: () => void): number => Math.min(...Array.from({ length: times }, () => cpuSeconds(work)));
