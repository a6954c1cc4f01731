'use client';

import type { TokenView } from '@dusk-tally/lab/bench';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { SomeField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { makeTokenAct, revokeTokenAct } from './bench-acts';
import { LabMoment } from '@/kit/lab-time';
import { Table } from '@/kit/table';

const SCOPES = [
  ['bench', 'bench: an agent drives channels and hands in readings'],
  ['read', 'read: cells and runs'],
  ['write', 'write: readings and files'],
] as const;

type TokenScope = (typeof SCOPES)[number][0];

/** Makes a token; it is shown this once. */
function TokenForm() {
  const [made, setMade] = useState<string | null>(null);
  const form = useLabForm({
    schema: 'tokenInput',
    first: { name: '', scopes: ['bench'] as TokenScope[] },
    act: makeTokenAct,
    done: ({ token }) => {
      setMade(token);
      form.forget();
    },
  });
  return (
    <Form of={form} label="A new token" act="Make a token" className="panel space-y-3 p-4">
      <TextField
        name="name"
        label="What it is for"
        className="block max-w-md"
        placeholder="bench computer, east wall"
      />
      <SomeField name="scopes" label="What it may" className="space-y-1" offered={SCOPES} />
      {made && (
        <div role="status" className="rounded-sm border-l-4 border-ember bg-wash px-3 py-2">
          <p>Copy it now; it is not shown again.</p>
          <code className="break-all select-all">{made}</code>
        </div>
      )}
    </Form>
  );
}

/** Tokens of programs that speak with the app. */
export function TokenList({ tokens }: { tokens: readonly TokenView[] }) {
  const { run, busy, problem } = useAct();
  return (
    <div className="space-y-4">
      <TokenForm />
      {problem && <Problem>{problem}</Problem>}
      {tokens.length > 0 && (
        <div className="panel overflow-x-auto p-4">
          <Table>
            <thead>
              <tr>
                <th>For</th>
                <th>May</th>
                <th>Made</th>
                <th>Last used</th>
                <th>
                  <span className="sr-only">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {tokens.map((token) => (
                <tr key={token.id} className={token.revokedAt ? 'text-quiet' : ''}>
                  <td>{token.name}</td>
                  <td>{token.scopes.join(', ')}</td>
                  <td>
                    <LabMoment at={token.createdAt} />, {token.by}
                  </td>
                  <td>{token.lastUsedAt ? <LabMoment at={token.lastUsedAt} /> : 'never'}</td>
                  <td className="text-right">
                    {token.revokedAt ? (
                      <>
                        revoked <LabMoment at={token.revokedAt} />
                      </>
                    ) : (
                      <Button
                        disabled={busy}
                        onClick={() => run((key) => revokeTokenAct({ id: token.id }, key))}
                      >
                        Revoke
                      </Button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </div>
      )}
    </div>
  );
}
