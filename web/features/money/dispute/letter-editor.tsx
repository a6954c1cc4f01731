'use client';

import type { DisputeView } from '@dusk-tally/lab/disputes';
import type { LetterPiece } from '@dusk-tally/lab/inputs';
import { type Editor, EditorContent, useEditor } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { Bold, List } from 'lucide-react';
import { useState } from 'react';
import { say } from '@/kit/say';
import { Button } from '@/kit/button';
import { Input, Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { usePerson } from '@/kit/person';
import { useAct } from '@/kit/use-act';
import { keep as keepHere, readKept } from '@/lib/browser-store';
import type { Refusal } from '@/lib/outcome';
import { keepLetterAct, letterWentOutAct } from './acts';
import { type LetterDraft, letterDraft, letterText } from './letter-draft';

type Letter = DisputeView['letters'][number];

/** A letter being typed: what is typed stays in this browser until it is stored, and a letter somebody else stored meanwhile stands beside it. */
function useLetter(letter: Letter) {
  const { id, isSent } = letter;
  const { id: personId } = usePerson();
  const key = `dusk-draft:${personId}:letter ${id}`;
  const stored: LetterDraft = {
    version: letter.version,
    title: letter.title,
    body: letter.body as LetterPiece,
  };
  const [kept] = useState(() => letterDraft(readKept(key)));
  const begun = kept !== null && !isSent ? kept : stored;
  const [title, setTitle] = useState(begun.title);
  const [version, setVersion] = useState(begun.version);
  const [isChanged, setChanged] = useState(begun !== stored);
  const [theirs, setTheirs] = useState<LetterDraft | null>(
    begun.version === stored.version ? null : stored,
  );
  const { run, busy, problem } = useAct();
  const changed = (typed: Pick<LetterDraft, 'title' | 'body'>) => {
    setChanged(true);
    keepHere(key, { version, ...typed });
  };
  const editor = useEditor({
    extensions: [StarterKit.configure({ link: false, codeBlock: false, code: false })],
    content: begun.body,
    editable: !isSent,
    // The page is made on the server first, where there is no editor.
    immediatelyRender: false,
    editorProps: {
      attributes: {
        class: 'letter-text min-h-64 outline-none',
        'aria-label': 'The letter',
        role: 'textbox',
        'aria-multiline': 'true',
      },
    },
    onUpdate: ({ editor: now }) => changed({ title, body: now.getJSON() as LetterPiece }),
  });
  const show = (draft: LetterDraft) => {
    setTitle(draft.title);
    setVersion(draft.version);
    editor?.commands.setContent(draft.body, { emitUpdate: false });
    setChanged(false);
    setTheirs(null);
    keepHere(key, null);
  };
  const refused = ({ code, current }: Refusal): boolean => {
    const other = code === 'conflict' ? letterDraft(current) : null;
    if (other) setTheirs(other);
    return other !== null;
  };
  return {
    editor,
    title,
    version,
    isChanged,
    theirs,
    busy,
    problem,
    /** What was typed and is not in what went out. */
    left: isSent ? kept : null,
    forget: () => show(stored),
    takeTheirs: () => theirs && show(theirs),
    keepMine: () => {
      if (!theirs || !editor) return;
      setVersion(theirs.version);
      setTheirs(null);
      keepHere(key, { version: theirs.version, title, body: editor.getJSON() });
    },
    retitle: (next: string) => {
      setTitle(next);
      changed({ title: next, body: editor!.getJSON() as LetterPiece });
    },
    keep: () =>
      run(
        (press) =>
          keepLetterAct({ id, version, title, body: editor!.getJSON() as LetterPiece }, press),
        ({ version: next }) => {
          setVersion(next);
          setChanged(false);
          keepHere(key, null);
          say('Kept.');
        },
        refused,
      ),
    wentOut: () =>
      run(
        (press) => letterWentOutAct({ id, version }, press),
        () => undefined,
        refused,
      ),
  };
}

function Tools({ editor }: { editor: Editor }) {
  return (
    <div className="flex gap-1" role="toolbar" aria-label="How it is written">
      <Button
        look="bare"
        aria-label="Bold"
        aria-pressed={editor.isActive('bold')}
        onClick={() => editor.chain().focus().toggleBold().run()}
      >
        <Bold size={16} aria-hidden />
      </Button>
      <Button
        look="bare"
        aria-label="List"
        aria-pressed={editor.isActive('bulletList')}
        onClick={() => editor.chain().focus().toggleBulletList().run()}
      >
        <List size={16} aria-hidden />
      </Button>
    </div>
  );
}

/** What somebody else stored while this was typed. */
function Theirs({
  theirs,
  onTake,
  onKeep,
}: {
  theirs: LetterDraft;
  onTake: () => void;
  onKeep: () => void;
}) {
  return (
    <section aria-label="Both versions" className="rounded-sm border border-doubt bg-wash p-3">
      <p className="font-medium">
        Somebody stored another version meanwhile. Yours is below and kept; theirs is this:
      </p>
      <p className="mt-2 font-medium">{theirs.title}</p>
      <p className="max-h-60 overflow-y-auto whitespace-pre-line">{letterText(theirs.body)}</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button onClick={onKeep}>Go on with mine</Button>
        <Button onClick={onTake}>Take theirs; mine goes</Button>
      </div>
    </section>
  );
}

/** A letter, edited as it is read; it goes out by other means than this app. */
export function LetterEditor({ letter, mayLead }: { letter: Letter; mayLead: boolean }) {
  const { isSent } = letter;
  const it = useLetter(letter);
  const { editor, isChanged, theirs, busy, left } = it;
  if (!editor) return null;
  const copy = () =>
    void navigator.clipboard
      .writeText(editor.getText({ blockSeparator: '\n\n' }))
      .then(() => say('Copied; send it by your own means.'));
  return (
    <div className="panel space-y-3 p-4">
      {theirs && <Theirs theirs={theirs} onTake={it.takeTheirs} onKeep={it.keepMine} />}
      {left && (
        <section aria-label="Not in it" className="rounded-sm border border-doubt bg-wash p-3">
          <p className="font-medium">It went out without what you had typed:</p>
          <p className="whitespace-pre-line">{letterText(left.body)}</p>
        </section>
      )}
      <Label text="Title">
        <Input
          value={it.title}
          readOnly={isSent}
          onChange={({ target }) => it.retitle(target.value)}
        />
      </Label>
      {!isSent && <Tools editor={editor} />}
      <div className="field max-h-[34rem] overflow-y-auto p-4">
        <EditorContent editor={editor} />
      </div>
      {it.problem && <Problem>{it.problem}</Problem>}
      <div className="flex flex-wrap items-center gap-2">
        {!isSent && (
          <Button look="primary" disabled={busy || !isChanged || theirs !== null} onClick={it.keep}>
            Keep the letter
          </Button>
        )}
        {!isSent && isChanged && (
          <Button look="bare" disabled={busy} onClick={it.forget}>
            Begin anew
          </Button>
        )}
        <Button onClick={copy}>Copy the text</Button>
        {mayLead && !isSent && (
          <Button disabled={busy || isChanged} onClick={it.wentOut}>
            It went out
          </Button>
        )}
        <p className="text-[0.87rem] text-quiet">
          {isSent
            ? 'It went out: it does not change any more.'
            : isChanged
              ? 'Not stored yet; it stays in this browser until it is.'
              : 'Drafted from the facts; read it and change it. This app sends nothing.'}
        </p>
      </div>
    </div>
  );
}
