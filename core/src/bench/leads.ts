/** Resistivity of copper at 20 °C, Ω·mm²/m (handbook, chapter 4). */
const COPPER_OHM_MM2_PER_M = 0.0175;
/** Its rise, per K. */
const COPPER_PER_K = 0.0039;
/** Above this drop at the set current the app speaks up, V (handbook, chapter 2). */
export const DROP_THAT_MATTERS_V = 0.02;
/** A cable is stopped at this temperature, °C (handbook, Safety). */
export const CABLE_LIMIT_C = 60;
/** Heat a bare round cable in still air gives off, W per m² and K: a usual 10. */
const AIR_W_PER_M2_K = 10;

/**
 * Resistance of a copper cable there and back, mΩ.
 * @param lengthM of one way. @param mm2 cross-section. @param temperatureC of the copper.
 * @example cableMohm(1, 4) // 8.75
 */
export const cableMohm = (lengthM: number, mm2: number, temperatureC = 20): number =>
  (2000 * COPPER_OHM_MM2_PER_M * lengthM * (1 + COPPER_PER_K * (temperatureC - 20))) / mm2;

/** What leads take from a test. */
export interface LeadLoss {
  mohm: number;
  dropV: number;
  powerW: number;
  /** Energy over the run, Wh. */
  energyWh: number;
  matters: boolean;
  /** One sentence that says what to do; null where nothing need be done. */
  advice: string | null;
}

/**
 * Drop and loss in leads at a current over a time (handbook, chapter 2, "Watching").
 * @param wires with four, the sense leads are on the cell and the drop is not in the reading.
 * @param cutoffV set on the tester, V; null where it does not discharge.
 * @example leadLoss(5, 20, { hours: 5, wires: 2, cutoffV: 2.5 }).energyWh // 10
 */
export function leadLoss(
  mohm: number,
  amps: number,
  { hours, wires, cutoffV }: { hours: number; wires: 2 | 4; cutoffV: number | null },
): LeadLoss {
  const dropV = (mohm / 1000) * Math.abs(amps);
  const powerW = dropV * Math.abs(amps);
  const matters = wires === 2 && dropV > DROP_THAT_MATTERS_V;
  return {
    mohm,
    dropV,
    powerW,
    energyWh: powerW * hours,
    matters,
    advice: matters
      ? `Move the sense leads to the cell’s own terminals${cutoffV === null ? '' : `, or set the tester’s cut-off to ${(cutoffV - dropV).toFixed(3)} V instead of ${cutoffV.toFixed(2)} V`}: its leads take ${(dropV * 1000).toFixed(0)} mV.`
      : null,
  };
}

/**
 * How far above the air around it a bare cable settles, K, from I²R over its surface in still air.
 * @param diameterMm outer; by default that of the copper with a fifth for insulation.
 */
export function cableRiseK(
  amps: number,
  mm2: number,
  diameterMm = 1.2 * Math.sqrt((4 * mm2) / Math.PI),
): number {
  const wattsPerM = (amps ** 2 * COPPER_OHM_MM2_PER_M) / mm2;
  return wattsPerM / (AIR_W_PER_M2_K * Math.PI * (diameterMm / 1000));
}
