import {
  closeSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  writeSync,
} from 'node:fs';
import { dirname } from 'node:path';

/** When a process began, in clock ticks since boot; null where it is gone or cannot be asked. */
function startedAt(pid) {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
  } catch {
    return null;
  }
}

/** Whether the process that wrote a lock file still runs; a number used again counts as gone. */
function isHeld(file) {
  try {
    const [pid, began] = readFileSync(file, 'utf8').split(' ');
    return startedAt(pid) !== null && startedAt(pid) === began;
  } catch {
    return false;
  }
}

function take(file) {
  try {
    const handle = openSync(file, 'wx');
    writeSync(handle, `${process.pid} ${startedAt(process.pid)}`);
    closeSync(handle);
    return true;
  } catch (error) {
    if (error.code !== 'EEXIST') throw error;
    return false;
  }
}

/**
 * Does `work` while no other process of this checkout does; waits for one that is at it. A lock
 * whose process was killed is taken over.
 */
export async function alone(file, work) {
  mkdirSync(dirname(file), { recursive: true });
  let said = false;
  while (!take(file)) {
    if (isHeld(file)) {
      if (!said) console.error('Waiting for another command that sets things up …');
      said = true;
      await new Promise((resolve) => setTimeout(resolve, 200));
      continue;
    }
    // Only one of several that find it left behind can move it away.
    const aside = `${file}.${process.pid}.left`;
    try {
      // A lock that was taken a moment ago may not have its number yet.
      await new Promise((resolve) => setTimeout(resolve, 100));
      if (isHeld(file)) continue;
      renameSync(file, aside);
      rmSync(aside, { force: true });
    } catch (error) {
      if (error.code !== 'ENOENT') throw error;
    }
  }
  try {
    return await work();
  } finally {
    rmSync(file, { force: true });
  }
}
