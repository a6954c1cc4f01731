'use client';

import type { DisputeView } from '@dusk-tally/lab/disputes';
import type { LetterPiece } from '@dusk-tally/lab/inputs';
import { EditorContent, useEditor } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { Bold, List } from 'lucide-react';
import { useState } from 'react';
import { say } from '@/kit/say';
import { Button } from '@/kit/button';
import { Input, Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { keepLetterAct, letterWentOutAct } from './acts';

type Letter = DisputeView['letters'][number];

/** A letter, edited as it is read; it goes out by other means than this app. */
export function LetterEditor({ letter, mayLead }: { letter: Letter; mayLead: boolean }) {
  const { id, isSent } = letter;
  const [title, setTitle] = useState(letter.title);
  const [version, setVersion] = useState(letter.version);
  const [isChanged, setChanged] = useState(false);
  const { run, busy, problem } = useAct();
  const editor = useEditor({
    extensions: [StarterKit.configure({ link: false, codeBlock: false, code: false })],
    content: letter.body,
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
    onUpdate: () => setChanged(true),
  });
  if (!editor) return null;
  const keep = () =>
    run(
      (key) => keepLetterAct({ id, version, title, body: editor.getJSON() as LetterPiece }, key),
      ({ version: next }) => {
        setVersion(next);
        setChanged(false);
        say('Kept.');
      },
    );
  const copy = () =>
    void navigator.clipboard
      .writeText(editor.getText({ blockSeparator: '\n\n' }))
      .then(() => say('Copied; send it by your own means.'));
  return (
    <div className="panel space-y-3 p-4">
      <Label text="Title">
        <Input
          value={title}
          readOnly={isSent}
          onChange={({ target }) => {
            setTitle(target.value);
            setChanged(true);
          }}
        />
      </Label>
      {!isSent && (
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
      )}
      <div className="field max-h-[34rem] overflow-y-auto p-4">
        <EditorContent editor={editor} />
      </div>
      {problem && <Problem>{problem}</Problem>}
      <div className="flex flex-wrap items-center gap-2">
        {!isSent && (
          <Button look="primary" disabled={busy || !isChanged} onClick={keep}>
            Keep the letter
          </Button>
        )}
        <Button onClick={copy}>Copy the text</Button>
        {mayLead && !isSent && (
          <Button
            disabled={busy || isChanged}
            onClick={() => run((key) => letterWentOutAct({ id, version }, key))}
          >
            It went out
          </Button>
        )}
        <p className="text-[0.87rem] text-quiet">
          {isSent
            ? 'It went out: it does not change any more.'
            : 'Drafted from the facts; read it and change it. This app sends nothing.'}
        </p>
      </div>
    </div>
  );
}
