import type { ChannelWiring, OwnLimits, SetPoint } from '@dusk-tally/core/bench';
import { InstrumentFault } from '../scpi';

/** What the instruments of a channel show. */
export interface Shown {
  voltageV: number;
  /** Discharge negative, A. */
  currentA: number;
  counterAh: number | null;
  /** The instrument’s own clock, s from any start; null where it shows none. */
  clockS: number | null;
}

/**
 * Sets and reads the instruments of one channel, whatever commands they speak. All of it may be
 * refused or stay without an answer. @throws InstrumentFault
 */
export interface ChannelDriver {
  /** How the instruments name themselves. */
  identify(): Promise<string[]>;
  /** Everything off and counters at zero, before a run. */
  prepare(): Promise<void>;
  /**
   * Brings the instruments to a setting: the other one off first, its cut-off and the limits it is
   * to hold by itself before its current.
   * @returns which of those limits it has no words for.
   */
  apply(set: SetPoint, own?: OwnLimits): Promise<string[]>;
  /** What is shown under a setting. */
  read(set: SetPoint): Promise<Shown>;
  /** Surface of the cell, °C, not older than said; null without a thermometer. */
  temperatureC(maxAgeMs: number): Promise<number | null>;
  /** AC resistance, mΩ; null without a meter. */
  acMohm(): Promise<number | null>;
  /** Errors the instruments hold, oldest first; reading them clears them. */
  errors(): Promise<string[]>;
  /** Everything off. */
  stop(): Promise<void>;
}

/** Drivers of all channels of an agent, in one dialect of commands. */
export interface ChannelDrivers {
  of(wiring: ChannelWiring): ChannelDriver;
  close(): void;
}

/** No instrument of a bench shows more than this. */
const MOST = { volts: 1000, amps: 2000 } as const;

/** @throws InstrumentFault for what no bench shows. */
export function plausible(shown: Shown, address: string): Shown {
  if (Math.abs(shown.voltageV) > MOST.volts || Math.abs(shown.currentA) > MOST.amps)
    throw new InstrumentFault(
      'garbage',
      `${address} shows ${shown.voltageV} V and ${shown.currentA} A, which no bench does.`,
    );
  return shown;
}
