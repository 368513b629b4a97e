'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { NewTellRule } from '~/schemas/tell';
import type { Severity } from '~/core/tell/severity';
import type { ShownRule } from '~/service/tell/readTelling';
import { SelectField, TickField, TicksField } from '~/web/parts/form/fields/SelectField';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet, type Unread } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';
import { LEAST_OPTIONS } from './least';

interface Props {
  /** Who can be told; `null` where only oneself can be chosen. */
  readonly people: readonly { readonly id: string; readonly name: string }[] | null;
  readonly sites: readonly string[];
  /** The rule that is changed; `null` for a new one. */
  readonly rule: ShownRule | null;
  readonly channel: NewTellRule['channel'];
  /** With the key of a new webhook, to be shown once. */
  readonly onDone: (key: string | null) => void;
}

type Values = ReturnType<typeof startOf>;

function startOf({ rule, people }: Pick<Props, 'rule' | 'people'>) {
  return {
    person: rule?.userId ?? people?.[0]?.id ?? '',
    address: '',
    sites: [...(rule?.sites ?? [])],
    least: (rule?.least ?? 'sign') as string,
    quietFrom: rule?.quiet?.from ?? '',
    quietTo: rule?.quiet?.to ?? '',
    repeatHours: rule ? String(rule.repeatHours ?? '') : '24',
    isOn: rule?.isOn ?? true,
  };
}

/** What a rule says, as the interface takes it; which field cannot be read. */
function saysOf({ sites, least, quietFrom, quietTo, repeatHours, isOn }: Values, zone: string) {
  if ((quietFrom === '') !== (quietTo === ''))
    return unread({ [quietFrom === '' ? 'quietFrom' : 'quietTo']: 'Quiet hours have a beginning and an end.' });
  return {
    sites,
    least: least as Severity,
    quiet: quietFrom === '' ? null : { from: quietFrom, to: quietTo, zone },
    repeatHours: repeatHours === '' ? null : Number(repeatHours),
    isOn,
  };
}

const isUnread = (of: object): of is Unread => 'kind' in of && of.kind === 'unread';

/** Who is told of what, and when not: a new rule, or another. */
export function TellRuleForm(props: Props): ReactNode {
  return props.rule ? <Change {...props} rule={props.rule} /> : <Add {...props} />;
}

const AT = { quietFrom: '/quiet/from', quietTo: '/quiet/to' };

function Add({ channel, people, sites, onDone }: Props): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: startOf({ rule: null, people }),
    sends: 'POST /tell-rules',
    at: AT,
    asks: (values) => {
      const says = saysOf(values, here());
      if (isUnread(says)) return says;
      return {
        body:
          channel === 'webhook'
            ? { channel, address: values.address.trim(), ...says }
            : { channel, ...(people ? { person: values.person } : {}), ...says },
      };
    },
    done: ({ key }) => {
      tell('Set. Send a test, and see it arrive.');
      onDone(key);
      router.refresh();
    },
  });
  return (
    <Sheet of={sheet} sends="Set" label="Whom to tell" look="plain" onCancel={() => onDone(null)}>
      {channel === 'webhook' ? (
        <TextField
          label="Address"
          name="address"
          required
          placeholder="https://chat.example/hooks/storage"
          hint="Posted to, as JSON and signed. The key is shown once."
        />
      ) : (
        people && (
          <SelectField label="Who" name="person" options={people.map(({ id, name }) => ({ value: id, words: name }))} />
        )
      )}
      <What sites={sites} />
    </Sheet>
  );
}

function Change({ rule, people, sites, onDone }: Props & { readonly rule: ShownRule }): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: startOf({ rule, people }),
    sends: 'PUT /tell-rules/{id}',
    at: AT,
    asks: (values) => {
      const says = saysOf(values, rule.quiet?.zone ?? here());
      return isUnread(says) ? says : { id: rule.id, body: says };
    },
    done: () => {
      tell('Changed.');
      onDone(null);
      router.refresh();
    },
  });
  return (
    <Sheet
      of={sheet}
      sends="Change it"
      label={`Told: ${rule.person ?? rule.address}`}
      look="plain"
      onCancel={() => onDone(null)}
    >
      <h3 className="font-semibold">{rule.person ?? rule.address}</h3>
      <What sites={[...new Set([...sites, ...rule.sites])]} />
      <TickField name="isOn" words="On" />
    </Sheet>
  );
}

/** The zone of this browser: quiet hours are those of whoever sets them. */
function here(): string {
  return Intl.DateTimeFormat().resolvedOptions().timeZone;
}

function What({ sites }: { readonly sites: readonly string[] }): ReactNode {
  return (
    <>
      <SelectField label="Told of" name="least" options={LEAST_OPTIONS} />
      {sites.length > 1 && (
        <TicksField
          label="Only at (none ticked means everywhere)"
          name="sites"
          options={sites.map((site) => ({ value: site, words: site }))}
        />
      )}
      <div className="grid items-start gap-4 sm:grid-cols-3">
        <TextField label="Quiet from" name="quietFrom" type="time" hint="What lowers a margin rings through." />
        <TextField label="Quiet until" name="quietTo" type="time" />
        <TextField
          label="Again every (hours)"
          name="repeatHours"
          type="number"
          min={1}
          max={720}
          hint="Until somebody looks after it. Empty: once."
        />
      </div>
    </>
  );
}
