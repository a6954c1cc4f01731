import type { Assignment } from '@dusk-tally/core/bench';
import type { ChannelDrivers } from '../drivers';
import type { AppClient } from './app-client';

export interface AgentSettings {
  name: string;
  app: Pick<AppClient, 'poll' | 'records'>;
  /** Folder of the journal. */
  folder: string;
  /** Bench seconds for each real one. */
  speed: number;
  /** Real time between looks at the instruments, ms. */
  tickMs?: number;
  pollMs?: number;
  /** Longest an instrument is waited for, ms. */
  timeoutMs?: number;
  /** How channels are driven; by SCPI where nothing is said. */
  drivers?: ChannelDrivers;
  /** Is told of each run before anything of it begins, once its instruments are off. */
  beforeRun?: (assignment: Assignment) => Promise<void>;
  /** A journal longer than this is written anew, bytes. */
  compactFrom?: number;
  log?: (line: string) => void;
  /** The wall clock, ms since 1970. */
  wallMs?: () => number;
}
