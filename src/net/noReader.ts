/**
 * Whoever read what this process prints may be gone, as a supervisor that was killed. A line that cannot be printed is an error of the
 * stream then, and must not be printed in turn: that would go round for ever and keep the process from stopping.
 */
export function outliveReader(): void {
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);
}
