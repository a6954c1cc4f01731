// Loaded before anything else in every process of a demo whose clock was moved on.
const aheadMs = 1000 * Number(process.env.DUSK_AHEAD_S ?? 0);
const Real = Date;
if (aheadMs > 0)
  globalThis.Date = new Proxy(Real, {
    construct: (target, args, asked) =>
      Reflect.construct(target, args.length === 0 ? [Real.now() + aheadMs] : args, asked),
    apply: () => new Real(Real.now() + aheadMs).toString(),
    get: (target, key) =>
      key === 'now' ? () => Real.now() + aheadMs : Reflect.get(target, key, target),
  });
