import { ButtonLink } from '@/kit/button';

export default function NotFound() {
  return (
    <main className="grid min-h-dvh place-items-center p-6 text-center">
      <div>
        <h1 className="text-xl font-semibold">This is not here</h1>
        <p className="mb-4 mt-1 text-quiet">
          The address names no lot, cell or report that is known. Find it by number with Ctrl K.
        </p>
        <ButtonLink href="/">To today</ButtonLink>
      </div>
    </main>
  );
}
