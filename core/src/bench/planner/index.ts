export * from './problem';
export { planFaults, type PlanFault } from './check-plan';
export { lowerBound, type LowerBound } from './lower-bound';
export * from './plan-bench';
