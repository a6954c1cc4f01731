/** The page’s own clock as the demo’s: moments typed and shown there are of the same time. */
const scriptOf = (aheadS: number): string => `(() => {
  const Real = Date, ahead = ${1000 * aheadS};
  globalThis.Date = new Proxy(Real, {
    construct: (target, args, asked) =>
      Reflect.construct(target, args.length === 0 ? [Real.now() + ahead] : args, asked),
    apply: () => new Real(Real.now() + ahead).toString(),
    get: (target, key) => key === 'now' ? () => Real.now() + ahead : Reflect.get(target, key, target),
  });
})();`;

/** Said on every page of a demo whose clock was moved on; nothing elsewhere. */
export function ClockAhead() {
  const aheadS = process.env.DUSK_DEMO ? Number(process.env.DUSK_AHEAD_S ?? 0) : 0;
  if (!(aheadS > 0)) return null;
  const days = Math.round(aheadS / 8640) / 10;
  return (
    <>
      <script dangerouslySetInnerHTML={{ __html: scriptOf(aheadS) }} />
      <p className="border-b border-rule bg-ember-wash px-3 py-1 text-center text-[0.82rem] print:hidden">
        Demo: its clock stands {days} {days === 1 ? 'day' : 'days'} ahead.
      </p>
    </>
  );
}
