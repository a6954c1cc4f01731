'use client';

import { createContext, type ReactNode, useContext, useState } from 'react';
import { Button, ButtonLink } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { DateField, MomentField } from '@/kit/date-field';
import { useFileDrop } from '@/kit/file-drop';
import { Fold } from '@/kit/fold';
import { Group, Input, Label, Suggesting, TextArea } from '@/kit/form-parts';
import { OneOf } from '@/kit/one-of';
import { Toggles } from '@/kit/toggles';
import { Empty, Problem } from '@/kit/page';
import { Beside, Over, Side, Sure } from '@/kit/panel-over';
import { QuantityField } from '@/kit/quantity-field';
import { Table } from '@/kit/table';
import { Tick } from '@/kit/tick';
import { VERDICT_NAMES, VerdictWord } from '@/kit/verdict-word';
import { ShowTally } from './show-tally';
import { ShowTable } from './show-table';

const Theme = createContext('light');

function Part({ name, children }: { name: string; children: ReactNode }) {
  const theme = useContext(Theme);
  return (
    <section aria-label={`${name}, ${theme}`} className="space-y-2">
      <h2 className="text-[0.82rem] font-semibold text-quiet">{name}</h2>
      {children}
    </section>
  );
}

function Fields() {
  const [text, setText] = useState('');
  const [grade, setGrade] = useState('second');
  const [day, setDay] = useState('2026-11-27');
  const [moment, setMoment] = useState('2026-11-27T14:20');
  const [ohm, setOhm] = useState('0,0042 ohm');
  const [supplier, setSupplier] = useState('');
  return (
    <Group title="Fields">
      <div className="grid gap-3 sm:grid-cols-2">
        <Label text="Text">
          <Input value={text} onChange={(event) => setText(event.target.value)} />
        </Label>
        <QuantityField
          label="AC resistance / mΩ"
          quantity="resistanceMohm"
          text={ohm}
          onText={setOhm}
        />
        <Label text="Choice">
          <Choice value={grade} onValue={setGrade}>
            <Option value="">none</Option>
            <Option value="first">First</Option>
            <Option value="second">Second</Option>
            <Option value="spares" disabled>
              Spares
            </Option>
          </Choice>
        </Label>
        <Label text="Supplier">
          <Suggesting value={supplier} onValue={setSupplier} known={['Fennick Cells', 'Marl']} />
        </Label>
        <Label text="Day">
          <DateField value={day} onValue={setDay} />
        </Label>
        <MomentField label="Moment" value={moment} onValue={setMoment} />
        <Label text="Several lines" className="sm:col-span-2">
          <TextArea value={text} onChange={(event) => setText(event.target.value)} />
        </Label>
      </div>
    </Group>
  );
}

function Choosing() {
  const [ticked, setTicked] = useState(true);
  const [plan, setPlan] = useState<'all' | 'risk'>('all');
  const [axis, setAxis] = useState<'charge' | 'time'>('charge');
  return (
    <div className="space-y-3">
      <Tick checked={ticked} onChecked={setTicked}>
        Only while somebody is there
      </Tick>
      <Tick checked="some" onChecked={() => undefined}>
        Some of them
      </Tick>
      <OneOf
        label="Plan"
        value={plan}
        onValue={setPlan}
        options={[
          ['all', 'All of them'],
          ['risk', 'By risk'],
        ]}
      />
      <Toggles
        label="Against"
        value={axis}
        onValue={setAxis}
        options={[
          ['charge', 'Charge'],
          ['time', 'Time'],
        ]}
      />
    </div>
  );
}

function Panels() {
  const [open, setOpen] = useState<'over' | 'side' | 'sure' | 'beside' | null>(null);
  const onOpen = (next: boolean) => !next && setOpen(null);
  return (
    <div className="flex flex-wrap gap-2">
      <Button onClick={() => setOpen('over')}>Panel over the page</Button>
      <Button onClick={() => setOpen('side')}>Panel at the side</Button>
      <Button onClick={() => setOpen('sure')}>A question</Button>
      <Beside
        open={open === 'beside'}
        onOpen={(next) => setOpen(next ? 'beside' : null)}
        trigger={<Button>Panel at a button</Button>}
      >
        A few words.
      </Beside>
      <Over open={open === 'over'} onOpen={onOpen} title="Panel over the page" says="One sentence.">
        <Input aria-label="Field in the panel" />
      </Over>
      <Side
        open={open === 'side'}
        onClose={() => setOpen(null)}
        title="Panel at the side"
        closeLabel="Close the panel"
      >
        <p>What belongs to a figure.</p>
      </Side>
      <Sure
        open={open === 'sure'}
        onOpen={onOpen}
        title="Call the lot off?"
        says="Everything recorded stays; nothing more can be entered."
        act="Call it off"
        onSure={() => setOpen(null)}
      />
    </div>
  );
}

function Files() {
  const [names, setNames] = useState<string[]>([]);
  const { zone, input, open, over } = useFileDrop({
    label: 'Files',
    onFiles: (files) => setNames(files.map(({ name }) => name)),
  });
  return (
    <div
      {...zone}
      className={`rounded-md border-2 border-dashed p-4 ${over ? 'border-ember bg-ember-wash' : 'border-strong-rule'}`}
    >
      {input}
      <Button onClick={open}>Choose files</Button> {names.join(', ') || 'or drop them here.'}
    </div>
  );
}

/** Every part once, as it stands in one theme. */
export function KitShow({ theme }: { theme: 'light' | 'dark' }) {
  return (
    <Theme.Provider value={theme}>
      <div className="space-y-6">
        <Part name="Acts">
          <div className="flex flex-wrap gap-2">
            <Button look="primary">Take in the lot</Button>
            <Button>Put on the list</Button>
            <Button look="bare">Close</Button>
            <Button disabled>Cannot be done</Button>
            <ButtonLink href="/kit#top">A way elsewhere</ButtonLink>
          </div>
        </Part>
        <Fields />
        <Part name="Choosing">
          <Choosing />
        </Part>
        <Part name="Panels">
          <Panels />
        </Part>
        <Part name="Files">
          <Files />
        </Part>
        <Part name="Folded">
          <Fold title="What the data sheet says">Rated 104 Ah at 0.2 It.</Fold>
        </Part>
        <Part name="Verdicts">
          <div className="flex flex-wrap gap-3">
            {(Object.keys(VERDICT_NAMES) as (keyof typeof VERDICT_NAMES)[]).map((verdict) => (
              <VerdictWord key={verdict} verdict={verdict} />
            ))}
          </div>
        </Part>
        <Part name="Tally strip">
          <ShowTally />
        </Part>
        <Part name="Tally strip of 10 000">
          <ShowTally many />
        </Part>
        <Part name="Short table">
          <Table label="Two rows">
            <thead>
              <tr>
                <th>Cell</th>
                <th className="num">Capacity / Ah</th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td>B-0001</td>
                <td className="num">104.2</td>
              </tr>
            </tbody>
          </Table>
        </Part>
        <Part name="Long table">
          <ShowTable label={`Ten thousand cells, ${theme}`} />
        </Part>
        <Part name="Said">
          <Problem>
            The file holds no rows; expected a table with time, voltage and current.
          </Problem>
          <Empty title="No lot yet">Take in the first one under Arrivals.</Empty>
        </Part>
      </div>
    </Theme.Provider>
  );
}
