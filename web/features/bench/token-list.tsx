'use client';

import type { TokenView } from '@dusk-tally/lab/bench';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { Input, Label } from '@/kit/form-parts';
import { useAct } from '@/kit/use-act';
import { makeTokenAct, revokeTokenAct } from './bench-acts';
import { LabMoment } from '@/kit/lab-time';
import { Table } from '@/kit/table';
import { Tick } from '@/kit/tick';

const SCOPES = [
  ['bench', 'bench: an agent drives channels and hands in readings'],
  ['read', 'read: cells and runs'],
  ['write', 'write: readings and files'],
] as const;

/** Tokens of programs that speak with the app. */
export function TokenList({ tokens }: { tokens: readonly TokenView[] }) {
  const { run, busy, problem } = useAct();
  const [name, setName] = useState('');
  const [scopes, setScopes] = useState<ReadonlySet<(typeof SCOPES)[number][0]>>(new Set(['bench']));
  const [made, setMade] = useState<string | null>(null);
  return (
    <div className="space-y-4">
      <form
        className="panel space-y-3 p-4"
        onSubmit={(event) => {
          event.preventDefault();
          run(
            () => makeTokenAct({ name, scopes: [...scopes] }),
            ({ token }) => {
              setMade(token);
              setName('');
            },
          );
        }}
      >
        <div className="max-w-md">
          <Label text="What it is for">
            <Input
              placeholder="bench computer, east wall"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </Label>
        </div>
        <fieldset className="space-y-1">
          <legend className="text-quiet">What it may</legend>
          {SCOPES.map(([scope, words]) => (
            <Tick
              key={scope}
              checked={scopes.has(scope)}
              onChecked={(on) => {
                const next = new Set(scopes);
                if (on) next.add(scope);
                else next.delete(scope);
                setScopes(next);
              }}
            >
              {words}
            </Tick>
          ))}
        </fieldset>
        <Button
          type="submit"
          look="primary"
          disabled={busy || name.trim() === '' || scopes.size === 0}
        >
          Make a token
        </Button>
        {problem && <Problem>{problem}</Problem>}
        {made && (
          <div role="status" className="rounded-sm border-l-4 border-ember bg-wash px-3 py-2">
            <p>Copy it now; it is not shown again.</p>
            <code className="break-all select-all">{made}</code>
          </div>
        )}
      </form>
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
                        onClick={() => run(() => revokeTokenAct({ id: token.id }))}
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
