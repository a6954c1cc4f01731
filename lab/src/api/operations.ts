import { z } from 'zod';
import { readingsInput } from '../evidence';
import type { TokenScope } from '@dusk-tally/store';
import { agentPoll, recordBatch } from '../bench';

/** One operation of the HTTP interface, as its document tells it. */
export interface ApiOperation {
  method: 'get' | 'post';
  path: string;
  scope: TokenScope;
  title: string;
  /** JSON body; null where the body is a file, or there is none. */
  body: z.ZodType | null;
  isFile?: boolean;
  parameters?: { name: string; in: 'path' | 'query'; words: string; required: boolean }[];
  answers: string;
  /** Largest body, bytes. */
  mostBytes: number;
}

const KB = 1024;

/** Everything under `/api/v1` (handbook, chapter 2): the document and the routes are made from this. */
export const API_OPERATIONS = {
  poll: {
    method: 'post',
    path: '/api/v1/agent/poll',
    scope: 'bench',
    title: 'What an agent is to do next',
    body: agentPoll,
    answers: 'Runs to start, commands to carry out, runs to drop.',
    mostBytes: 256 * KB,
  },
  records: {
    method: 'post',
    path: '/api/v1/agent/records',
    scope: 'bench',
    title: 'Hands in numbered records of runs; each is kept once',
    body: recordBatch,
    answers: 'Up to which number each run is kept without a gap.',
    mostBytes: 4096 * KB,
  },
  readings: {
    method: 'post',
    path: '/api/v1/readings',
    scope: 'write',
    title: 'Keeps typed readings; the same client key is kept once',
    body: readingsInput,
    answers: 'How many were new.',
    mostBytes: 1024 * KB,
  },
  files: {
    method: 'post',
    path: '/api/v1/files',
    scope: 'write',
    title: 'Takes in a log of a tester for one cell; the body is the file',
    body: null,
    isFile: true,
    parameters: [
      { name: 'cell', in: 'query', words: 'Number of the cell, such as B-0101.', required: true },
      { name: 'name', in: 'query', words: 'Name of the file.', required: true },
      { name: 'channel', in: 'query', words: 'Id of the channel it ran on.', required: false },
      { name: 'ambient', in: 'query', words: 'Temperature of the room, °C.', required: false },
      {
        name: 'clamping',
        in: 'query',
        words: 'How the cell was held: fixture or free.',
        required: false,
      },
    ],
    answers: 'The run it became, with its capacity.',
    mostBytes: 48 * KB * KB,
  },
  run: {
    method: 'get',
    path: '/api/v1/runs/{id}',
    scope: 'read',
    title: 'A run with its figures, uncertainties and findings',
    body: null,
    parameters: [{ name: 'id', in: 'path', words: 'Id of the run.', required: true }],
    answers: 'The run.',
    mostBytes: 0,
  },
  cell: {
    method: 'get',
    path: '/api/v1/cells/{number}',
    scope: 'read',
    title: 'Where a cell stands: readings, runs, figures, verdicts',
    body: null,
    parameters: [{ name: 'number', in: 'path', words: 'Number of the cell.', required: true }],
    answers: 'The cell.',
    mostBytes: 0,
  },
} as const satisfies Record<string, ApiOperation>;

const ERRORS = {
  '401': 'No valid token.',
  '403': 'The token lacks the scope.',
  '413': 'The body is too large.',
  '422': 'Something in it is not as expected; the message says what.',
  '429': 'Too many requests in this minute.',
};

const errorSchema = {
  type: 'object',
  properties: {
    error: {
      type: 'object',
      properties: { code: { type: 'string' }, message: { type: 'string' } },
      required: ['code', 'message'],
    },
  },
  required: ['error'],
};

function operationOf({ title, scope, body, isFile, parameters, answers, mostBytes }: ApiOperation) {
  const content = isFile
    ? { 'application/octet-stream': { schema: { type: 'string', format: 'binary' } } }
    : body
      ? {
          'application/json': {
            schema: z.toJSONSchema(body, {
              io: 'input',
              unrepresentable: 'any',
              target: 'draft-2020-12',
            }),
          },
        }
      : null;
  return {
    summary: title,
    description: `Needs a token with the scope “${scope}”.${mostBytes > 0 ? ` At most ${Math.round(mostBytes / KB)} kB.` : ''}`,
    security: [{ token: [] }],
    ...(parameters
      ? {
          parameters: parameters.map(({ name, in: where, words, required }) => ({
            name,
            in: where,
            required,
            description: words,
            schema: { type: 'string' },
          })),
        }
      : {}),
    ...(content ? { requestBody: { required: true, content } } : {}),
    responses: {
      '200': {
        description: answers,
        content: { 'application/json': { schema: { type: 'object' } } },
      },
      ...Object.fromEntries(
        Object.entries(ERRORS).map(([status, description]) => [
          status,
          { description, content: { 'application/json': { schema: errorSchema } } },
        ]),
      ),
    },
  };
}

/** The interface as an OpenAPI 3.1 document, made from the schemas that check its input. */
export function openApi(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const operation of Object.values(API_OPERATIONS) as ApiOperation[])
    (paths[operation.path] ??= {})[operation.method] = operationOf(operation);
  return {
    openapi: '3.1.0',
    info: {
      title: 'Dusk Tally',
      version: '1',
      description:
        'Readings, logs and runs of a lab that tests battery cells; the bench agent’s side. Times are UTC, discharge currents negative.',
    },
    paths,
    components: { securitySchemes: { token: { type: 'http', scheme: 'bearer' } } },
  };
}
