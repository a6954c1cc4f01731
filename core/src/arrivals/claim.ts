/** Kinds of claim item (handbook, chapter 1, "The claim"). */
export const CLAIM_KINDS = [
  'capacity',
  'acResistance',
  'dcResistance',
  'maxCharge',
  'maxDischarge',
  'grade',
  'condition',
  'producedAfter',
  'mass',
  'size',
  'quantity',
  'disputeWindow',
] as const;
export type ClaimKind = (typeof CLAIM_KINDS)[number];

export const CLAIM_WORDS: Record<ClaimKind, string> = {
  capacity: 'Capacity',
  acResistance: 'AC resistance',
  dcResistance: 'DC resistance',
  maxCharge: 'Maximum charge current',
  maxDischarge: 'Maximum discharge current',
  grade: 'Grade',
  condition: 'Condition',
  producedAfter: 'Produced not before',
  mass: 'Mass',
  size: 'Size',
  quantity: 'Quantity',
  disputeWindow: 'Dispute window',
};
