import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** The folder of the project, where every command here runs. */
export const ROOT = fileURLToPath(new URL('../../', import.meta.url));

/**
 * Runs a program and waits for it. Its output goes on to the terminal unless it is `quiet`, and, where `tee` is given, to that
 * function too.
 * @returns {Promise<number>} the exit code
 */
export function run(command, args, { env = process.env, cwd = ROOT, quiet = false, tee } = {}) {
  return new Promise((resolve) => {
    const output = quiet ? 'ignore' : tee ? 'pipe' : 'inherit';
    const child = spawn(command, args, { cwd, env, stdio: ['ignore', output, output] });
    for (const [from, to] of tee ? [[child.stdout, process.stdout], [child.stderr, process.stderr]] : []) {
      from.on('data', (data) => {
        to.write(data);
        tee(String(data));
      });
    }
    child.on('error', (error) => {
      console.error(`${command} cannot be started: ${error.message}`);
      resolve(127);
    });
    child.on('close', (code) => resolve(code ?? 1));
  });
}
