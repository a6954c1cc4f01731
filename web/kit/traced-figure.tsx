import { FigureText } from './figure-text';
import { Link } from './link';

/** A frozen figure. */
interface Frozen {
  value: number;
  U: number | null;
  bound: string;
  /** The stored result it is; absent in what was frozen before results were named. */
  resultId?: number;
}

/** A frozen figure; it opens how it came about, where it is known which result it is. */
export function TracedFigure({ figure }: { figure: Frozen | null }) {
  const text = (
    <FigureText value={figure?.value ?? null} U={figure?.U ?? null} bound={figure?.bound} />
  );
  return figure?.resultId === undefined ? (
    text
  ) : (
    <Link
      href={`/figures/${figure.resultId}`}
      className="rounded-sm underline decoration-dotted underline-offset-4"
    >
      {text}
    </Link>
  );
}
