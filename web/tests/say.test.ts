import { afterEach, describe, expect, it } from 'vitest';
import { messages, say } from '@/kit/say';
import { offerUndo } from '@/kit/undo-toast';

const texts = () => messages.waiting().map(({ text }) => text);

describe('short messages', () => {
  afterEach(() => {
    for (const { id } of messages.waiting()) messages.done(id);
  });

  it('wait in the order they were said until somebody shows them, each once', () => {
    say('first');
    say('second');
    say('first');
    expect(texts()).toEqual(['first', 'second', 'first']);
    const [{ id } = { id: 0 }] = messages.waiting();
    messages.done(id);
    expect(texts()).toEqual(['second', 'first']);
    messages.done(id);
    expect(texts()).toEqual(['second', 'first']);
  });

  it('who watches is told of each, and of none after leaving', () => {
    const seen: string[][] = [];
    const leave = messages.watch(() => seen.push(texts()));
    say('heard');
    messages.done(messages.waiting()[0]!.id);
    leave();
    say('not heard');
    expect(seen).toEqual([['heard'], []]);
  });

  it('a list that was handed out does not change afterwards', () => {
    say('one');
    const before = messages.waiting();
    say('two');
    expect(before).toHaveLength(1);
    expect(messages.waiting()).not.toBe(before);
  });

  it('what can be taken back stays twice as long and does it when pressed', () => {
    let undone = 0;
    say('done');
    offerUndo('Laid to rest.', () => (undone += 1));
    const [plain, offered] = messages.waiting();
    expect(plain!.offer).toBeNull();
    expect(offered!.stays).toBe(2 * plain!.stays);
    expect(offered!.offer?.label).toBe('Take it back');
    offered!.offer!.act();
    expect(undone).toBe(1);
  });
});
