import 'server-only';
import { foldEnded, watchBench } from '@dusk-tally/lab/gathering';
import { lab } from './lab';

/** Work behind the answers; never twice at once in this process, and harmless beside another one. */
function behind(work: () => Promise<unknown>): () => void {
  let going: Promise<unknown> | null = null;
  return () => {
    going ??= work()
      .catch((error: unknown) => console.error(error))
      .finally(() => {
        going = null;
      });
  };
}

/** Has the app do what it does by itself from time to time. */
export const watchSoon = behind(() => watchBench(lab()));

/** Takes runs that ended in as evidence. */
export const foldSoon = behind(() => foldEnded(lab()));
