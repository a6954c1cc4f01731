import { openApi } from '@dusk-tally/lab/api';

/** The document of the HTTP interface. */
export const GET = (): Response => Response.json(openApi());
