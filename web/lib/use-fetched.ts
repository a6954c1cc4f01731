'use client';

import {
  type DefaultError,
  type DefinedInitialDataOptions,
  type DefinedUseQueryResult,
  QueryClient,
  useQuery,
  type UseQueryOptions,
  type UseQueryResult,
} from '@tanstack/react-query';

/**
 * What was fetched by the pages of a tab. Its own module, not a provider around every page: pages
 * that fetch nothing do without it. On the server nothing is fetched, so nothing is kept there.
 */
export const fetched = new QueryClient({
  defaultOptions: { queries: { staleTime: 30_000, retry: 1, refetchOnWindowFocus: false } },
});
// Only then it hears that the connection is back, and what waited for it goes on.
if (typeof window !== 'undefined') fetched.mount();

type Options<Data, Key extends readonly unknown[]> = UseQueryOptions<Data, DefaultError, Data, Key>;
type Known<Data, Key extends readonly unknown[]> = DefinedInitialDataOptions<
  Data,
  DefaultError,
  Data,
  Key
>;

/** What the server says to a question, asked once for all that ask the same on a page. */
export function useFetched<Data, Key extends readonly unknown[]>(
  options: Known<Data, Key>,
): DefinedUseQueryResult<Data>;
export function useFetched<Data, Key extends readonly unknown[]>(
  options: Options<Data, Key>,
): UseQueryResult<Data>;
export function useFetched<Data, Key extends readonly unknown[]>(
  options: Options<Data, Key>,
): UseQueryResult<Data> {
  return useQuery(options, fetched);
}
