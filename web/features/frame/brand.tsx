/** Four strokes and a leaning fifth, the claim line behind them. */
export function Brand() {
  return (
    <span className="flex items-center gap-2.5">
      <svg width={30} height={22} viewBox="0 0 30 22" aria-hidden>
        <path d="M0 9h30" stroke="var(--ember)" strokeDasharray="3 2" />
        <path
          d="M4 20v-14M10 20v-16M16 20v-11M22 20v-15M28 20v-13"
          stroke="var(--ink)"
          strokeWidth={2.4}
          strokeLinecap="round"
        />
      </svg>
      <span className="text-lg font-semibold tracking-tight">Dusk Tally</span>
    </span>
  );
}
