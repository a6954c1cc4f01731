import type { Chemistry } from '../chemistry';
import { openCircuitVoltage } from './ocv';

/** What a simulated cell is. */
export interface CellParameters {
  chemistry: Chemistry;
  /** Charge between full and empty, Ah. */
  capacityAh: number;
  /** Ohmic resistance at 25 °C, mΩ. */
  r0Mohm: number;
  /** The two RC pairs: resistance mΩ, time constant s. */
  pairs: readonly [{ mohm: number; tauS: number }, { mohm: number; tauS: number }];
  /** Heat capacity J/K and thermal resistance to ambient K/W. */
  heatCapacityJPerK: number;
  thermalResistanceKPerW: number;
  /** Current that leaks inside the cell, A. */
  leakageA: number;
  /** Extra heat of a failing cell while charging, W per A². */
  heaterWPerA2: number;
}

/** Usual values for a cell of a size: resistances scale with 1 / Ah. */
export function typicalCell(chemistry: Chemistry, capacityAh: number): CellParameters {
  const scale = 6 / capacityAh;
  return {
    chemistry,
    capacityAh,
    r0Mohm: 8 * scale,
    pairs: [
      { mohm: 4 * scale, tauS: 12 },
      { mohm: 9 * scale, tauS: 240 },
    ],
    heatCapacityJPerK: 24 * capacityAh,
    thermalResistanceKPerW: 9 * Math.sqrt(scale),
    leakageA: 0,
    heaterWPerA2: 0,
  };
}

/** State of a simulated cell. */
export interface CellState {
  stateOfCharge: number;
  /** Voltages of the RC pairs, V. */
  pairV: readonly [number, number];
  temperatureC: number;
}

/** A rested cell. */
export function restedState(stateOfCharge: number, temperatureC: number): CellState {
  return { stateOfCharge, pairV: [0, 0], temperatureC };
}

function resistanceFactor(temperatureC: number): number {
  return 1 - 0.006 * (temperatureC - 25);
}

/** Rise and fall of the voltage beyond full and empty, V for each whole capacity. */
const BEYOND_V = 25;

/** Open-circuit voltage at a state of charge that may lie beyond full or empty, V, never below 0. */
function restingVoltage({ chemistry }: CellParameters, stateOfCharge: number): number {
  const beyond = stateOfCharge - Math.min(1, Math.max(0, stateOfCharge));
  return Math.max(0, openCircuitVoltage(chemistry, stateOfCharge) + BEYOND_V * beyond);
}

/** Terminal voltage under a current (discharge negative), V. */
export function terminalVoltage(cell: CellParameters, state: CellState, currentA: number): number {
  const ohmic = (cell.r0Mohm / 1000) * resistanceFactor(state.temperatureC) * currentA;
  return restingVoltage(cell, state.stateOfCharge) + ohmic + state.pairV[0] + state.pairV[1];
}

/**
 * State after `durationS` at a constant current: exact for the RC pairs and the heat balance.
 * @param currentA discharge negative. @param ambientC °C.
 */
export function advance(
  cell: CellParameters,
  state: CellState,
  input: { currentA: number; durationS: number; ambientC: number },
): CellState {
  const { currentA, durationS, ambientC } = input;
  const pair = (index: 0 | 1): number => {
    const { mohm, tauS } = cell.pairs[index];
    const decay = Math.exp(-durationS / tauS);
    return state.pairV[index] * decay + (mohm / 1000) * currentA * (1 - decay);
  };
  const totalOhm = (cell.r0Mohm + cell.pairs[0].mohm + cell.pairs[1].mohm) / 1000;
  const heatW = currentA ** 2 * totalOhm + (currentA > 0 ? cell.heaterWPerA2 * currentA ** 2 : 0);
  const settledC = ambientC + heatW * cell.thermalResistanceKPerW;
  const thermal = Math.exp(-durationS / (cell.heatCapacityJPerK * cell.thermalResistanceKPerW));
  const movedAh = ((currentA - cell.leakageA) * durationS) / 3600;
  return {
    stateOfCharge: state.stateOfCharge + movedAh / cell.capacityAh,
    pairV: [pair(0), pair(1)],
    temperatureC: settledC + (state.temperatureC - settledC) * thermal,
  };
}
