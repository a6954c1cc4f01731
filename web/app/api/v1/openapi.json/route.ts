import { openApi } from '@dusk-tally/lab/bench';

/** The document of the HTTP interface. */
export const GET = (): Response => Response.json(openApi());
