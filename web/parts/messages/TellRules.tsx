'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import type { NewTellRule } from '~/schemas/tell';
import type { ShownRule } from '~/service/tell/readTelling';
import { Button } from '~/web/parts/form/Button';
import { useSending } from '~/web/parts/form/useSending';
import { tell, tellFault } from '~/web/parts/tell/tell';
import { Moment } from '~/web/parts/unit/Moment';
import { ShownOnce } from '~/web/parts/settings/ShownOnce';
import { LEAST } from './least';
import { TellRuleForm } from './TellRuleForm';

interface Props {
  readonly rules: readonly ShownRule[];
  /** Who can be told; only an owner chooses among them. */
  readonly people: readonly { readonly id: string; readonly name: string }[] | null;
  readonly sites: readonly string[];
  readonly hasServer: boolean;
}

/** Who is told of what needs hands, by which way, and whether that was ever seen to arrive. */
export function TellRules({ rules, people, sites, hasServer }: Props): ReactNode {
  const [open, setOpen] = useState<string | null>(null);
  const [key, setKey] = useState<string | null>(null);
  const isNew = open === 'mail' || open === 'webhook';
  const form = (rule: ShownRule | null, channel: NewTellRule['channel']): ReactNode => (
    <TellRuleForm
      rule={rule}
      channel={channel}
      people={people}
      sites={sites}
      onDone={(made) => {
        setOpen(null);
        if (made !== null) setKey(made);
      }}
    />
  );
  return (
    <section aria-label="Who is told" className="grid gap-3">
      <h2 className="text-lg">Who is told</h2>
      <p className="max-w-[640px] text-muted">
        One message for one cause, however much comes of it; again when it gets worse. Whoever looks after it says so on
        the shelf, and the repeats end.
      </p>
      {rules.length === 0 && (
        <p className="font-semibold">Nobody is told: what happens at night is known when somebody looks here.</p>
      )}
      <ul className="grid gap-2">
        {rules.map((rule) => (
          <li key={rule.id} className="border border-line bg-surface px-4 py-3">
            {open === rule.id ? (
              form(rule, rule.channel)
            ) : (
              <Rule rule={rule} hasServer={hasServer} known={sites} onChange={() => setOpen(rule.id)} />
            )}
          </li>
        ))}
      </ul>
      {key !== null && (
        <ShownOnce
          title="Posts are signed with this key, taken as text: Shelf-Signature is the HMAC-SHA256 of Shelf-Time, a full stop and the body, in hexadecimal. docs/operating.md shows how to check it. It is not shown again."
          text={key}
          onDone={() => setKey(null)}
        />
      )}
      {isNew ? (
        <div className="border border-line bg-surface p-4">{form(null, open)}</div>
      ) : (
        <div className="no-print flex flex-wrap gap-2">
          <Button look="main" onClick={() => setOpen('mail')}>
            {people ? 'Tell somebody by mail…' : 'Tell me by mail…'}
          </Button>
          {people && <Button onClick={() => setOpen('webhook')}>Tell a program…</Button>}
        </div>
      )}
    </section>
  );
}

interface RuleProps {
  readonly rule: ShownRule;
  readonly hasServer: boolean;
  readonly known: readonly string[];
  readonly onChange: () => void;
}

function Rule({ rule, hasServer, known, onChange }: RuleProps): ReactNode {
  const router = useRouter();
  const { busy, run } = useSending();
  const [asks, setAsks] = useState(false);
  const { id, person, channel, address, sites, least, quiet, repeatHours, isOn, trouble, toldAt, testedAt } = rule;
  const who = person ?? address;
  const gone = sites.filter((site) => !known.includes(site));
  const test = async (): Promise<void> => {
    const answer = await run('POST /tell-rules/{id}/test', { id });
    if (!answer) return;
    setAsks(!answer.hasArrived);
    tell(answer.hasArrived ? `${who} has taken the test.` : `A test is on its way to ${answer.to}.`);
    router.refresh();
  };
  const arrived = async (): Promise<void> => {
    if (await run('POST /tell-rules/{id}/arrived', { id })) tell('Good: messages reach you.');
    setAsks(false);
    router.refresh();
  };
  const remove = async (): Promise<void> => {
    const answer = await run('DELETE /tell-rules/{id}', { id });
    if (!answer) tellFault('It is still there: look again.');
    else tell(`${who} is told no longer.`);
    router.refresh();
  };
  return (
    <div className="grid gap-2">
      <p>
        <strong>{who}</strong>
        {person !== null && <span className="text-muted"> {address}</span>}
        {channel === 'webhook' && <span className="text-muted"> (a program)</span>}
        {!isOn && <span className="font-semibold"> · off</span>}
        <span className="block">
          {sites.length === 0 ? 'Everywhere' : `At ${sites.join(', ')}`}: {LEAST[least]}
          {quiet && `; from ${quiet.from} to ${quiet.to} (${quiet.zone}) only what lowers a margin`}
          {repeatHours !== null && `; again every ${String(repeatHours)} h until somebody looks after it`}.
        </span>
        <span className="block text-sm text-muted">
          {testedAt === null ? (
            'Never seen to arrive'
          ) : (
            <>
              Seen to arrive <Moment at={testedAt} relative />
            </>
          )}
          {toldAt !== null && (
            <>
              , told last <Moment at={toldAt} relative />
            </>
          )}
          .
        </span>
        {trouble !== null && (
          <span className="block font-semibold text-thinned">Not told: {trouble} It is tried again.</span>
        )}
        {channel === 'mail' && !hasServer && (
          <span className="block font-semibold text-thinned">No mail server is set: nothing can go out.</span>
        )}
        {gone.length > 0 && (
          <span className="block font-semibold text-thinned">Nothing stands at {gone.join(', ')} any more.</span>
        )}
      </p>
      <div className="no-print flex flex-wrap gap-2" role="group" aria-label={`Told: ${who}`}>
        {asks ? (
          <>
            <Button look="main" disabled={busy} onClick={() => void arrived()}>
              The test has arrived
            </Button>
            <Button onClick={() => setAsks(false)}>It has not</Button>
          </>
        ) : (
          <Button disabled={busy} onClick={() => void test()}>
            Send a test
          </Button>
        )}
        <Button onClick={onChange}>Change…</Button>
        <Button disabled={busy} onClick={() => void remove()}>
          Tell no longer
        </Button>
      </div>
    </div>
  );
}
