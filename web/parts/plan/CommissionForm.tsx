'use client';
import { isSameSerial } from '~/core/drive/serial';
import { bayName, BayName, bayShort } from '~/core/unit/bayName';
import { useRouter } from 'next/navigation';
import { useMemo, useState, type ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { factsOf, SCHEMES, type Scheme } from '~/core/layout/scheme';
import { groupWidthsThatFit } from '~/core/layout/groupWidths';
import { limitsOf } from '~/core/platform/profile';
import type { CopyLink } from '~/schemas/record';
import { madeAtFirstStart } from '~/core/plan/makers/commission/commissionPlan';
import type { CommissionWish } from '~/core/plan/makers/commission/commission';
import { shownAmount } from '~/core/quantity/shownAmount';
import { formatBytes } from '~/core/quantity/formatBytes';
import { baysOf, driveInBay, type UnitState } from '~/core/unit/state';
import type { DrawerDrive } from '~/core/upkeep/spareCoverage';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { CameraButton } from '~/web/parts/scan/CameraButton';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { hoursWords } from '~/core/quantity/hoursWords';
import { usePlanTried } from './usePlanTried';
import { DECIMAL } from './WaitPanel';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly drawers: readonly (DrawerDrive & { readonly model?: string })[];
}

interface Choice {
  readonly size: string;
  readonly serial: string;
  readonly model: string;
}

const NOTHING: Choice = { size: '', serial: '', model: '' };

/** The drives that go in, the pool, the file system: beside it the plan as it would be. */
export function CommissionForm({ id, version, unit, drawers }: Props): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const empty = baysOf(unit).filter((bay) => !driveInBay(unit, bay));
  const [rows, setRows] = useState<Readonly<Record<string, Choice>>>({});
  const [all, setAll] = useState('');
  const offered = SCHEMES.filter((scheme) => unit.profile.schemes[scheme]);
  const [chosen, setChosen] = useState<Scheme | ''>(offered.includes('parity-1') ? 'parity-1' : (offered[0] ?? ''));
  const [spares, setSpares] = useState('0');
  const [width, setWidth] = useState('');
  const [name, setName] = useState('Pool 1');
  const { fileSystems } = unit.profile.software;
  const [fileSystem, setFileSystem] = useState(fileSystems.find(({ checksums }) => checksums)?.name ?? fileSystems[0]?.name ?? '');
  const [copy, setCopy] = useState('');
  const [copyOver, setCopyOver] = useState<CopyLink>('1');

  const { drives, problems } = useMemo(() => {
    const list: CommissionWish['drives'][number][] = [];
    const wrong: Record<string, string> = {};
    for (const bay of empty) {
      const { size, serial, model } = rows[bay] ?? NOTHING;
      if (size.trim() === '') continue;
      const read = readSize(size);
      if (isRefusal(read)) wrong[bay] = read.sentence;
      else
        list.push({
          bay,
          bytes: read.bytes,
          basis: read.basis,
          ...(read.label === undefined ? {} : { label: read.label }),
          ...(serial.trim() === '' ? {} : { serial: serial.trim() }),
          ...(model.trim() === '' ? {} : { model: model.trim() }),
        });
    }
    return { drives: list, problems: wrong };
  }, [rows, empty]);
  const count = drives.length + Object.values(unit.drives).filter(({ bay }) => bay !== null).length;
  // Where the first power-on builds by count there is nothing to choose.
  const decided = Object.keys(unit.pools).length === 0 ? madeAtFirstStart(unit.profile, count) : undefined;
  const scheme = decided ?? chosen;
  const isGrouped = scheme !== '' && factsOf(scheme).isGrouped;
  const widths = isGrouped ? groupWidthsThatFit(count - Number(spares || 0), factsOf(scheme).redundancy ?? 1, limitsOf(unit.profile, scheme) ?? {}) : [];
  const copied = copy.trim() === '' ? null : shownAmount(copy, DECIMAL);
  const copyFault = copied !== null && isRefusal(copied) ? copied.sentence : undefined;
  const copyBytes = copied === null || isRefusal(copied) ? 0 : copied;
  const wish: CommissionWish = {
    drives,
    ...(scheme === '' || count === 0
      ? {}
      : {
          pool: {
            name: name.trim() === '' ? 'Pool 1' : name.trim(),
            scheme,
            spares: Number(spares) || 0,
            ...(isGrouped ? { groupWidth: Number(width) || widths[0] || 2 } : {}),
          },
        }),
    ...(fileSystem === '' ? {} : { fileSystem }),
    ...(copyBytes > 0 ? { copyBytes, copyOver } : {}),
  };

  const asked = usePlanTried('commission', id, wish);
  const tried = asked.kind === 'tried' ? asked : null;
  const why = asked.kind === 'refused' ? asked.sentence : null;

  const begin = async (): Promise<void> => {
    const answer = await run('POST /units/{id}/plans', { id, body: { expectedVersion: version, job: 'commission', wish } });
    if (answer) router.push(`/units/${id}/plans/${answer.plan}`);
  };
  const change = (bay: string, part: Partial<Choice>): void => setRows({ ...rows, [bay]: { ...(rows[bay] ?? NOTHING), ...part } });
  /** Into the first bay with a drive that has none yet; the same label twice is one drive. */
  const scanned = (serial: string): void => {
    if (Object.values(rows).some((row) => isSameSerial(row.serial, serial))) return;
    const bay =
      empty.find((one) => (rows[one]?.size ?? '').trim() !== '' && (rows[one]?.serial ?? '').trim() === '') ??
      empty.find((one) => (rows[one]?.serial ?? '').trim() === '');
    if (bay !== undefined) change(bay, { serial });
  };
  // One that was sick is a new drive to nobody.
  const free = drawers.filter(({ serial, sick }) => sick === undefined && !Object.values(rows).some((row) => row.serial === serial));
  const stop = tried?.dryRun.find((step) => step.kind === 'dry-stop');
  const hours = tried?.plan.steps.reduce((sum, step) => sum + (step.hours ?? 0.05), 0) ?? 0;

  return (
    <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_380px]">
      <form
        className="grid gap-5"
        onSubmit={(event) => {
          event.preventDefault();
          void begin();
        }}
      >
        <section aria-label="Drives">
          <h2 className="mb-2 text-lg">Drives that go in</h2>
          <div className="mb-3 flex max-w-[560px] flex-wrap items-end gap-2">
            <Field label="The same in every empty bay" value={all} placeholder="8 TB" autoComplete="off" onChange={(event) => setAll(event.target.value)} />
            <Button className="mb-1" onClick={() => setRows(Object.fromEntries(empty.map((bay) => [bay, { ...(rows[bay] ?? NOTHING), size: all }])))}>
              Fill in
            </Button>
            <CameraButton words="Scan the next serial" onSerial={scanned} />
          </div>
          <div className="relative max-h-[420px] overflow-auto" tabIndex={0} role="region" aria-label="Drives by bay">
            <table className="w-full border border-line bg-surface">
              <thead className="text-left text-sm text-muted">
                <tr>
                  {['Bay', 'Size', 'Serial, when you have it', 'Model', 'From a drawer'].map((head) => (
                    <th key={head} scope="col" className="px-2 py-1 font-normal">
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {empty.map((bay) => {
                  const row = rows[bay] ?? NOTHING;
                  return (
                    <tr key={bay} className="border-t border-line">
                      <th scope="row" className="px-2 py-1 font-semibold">
                        {bayShort(unit, bay)}
                      </th>
                      <td className="px-2 py-1">
                        <input
                          className="field w-28"
                          aria-label={`Size, ${bayName(unit, bay)}`}
                          aria-invalid={problems[bay] !== undefined}
                          title={problems[bay]}
                          value={row.size}
                          onChange={(event) => change(bay, { size: event.target.value })}
                        />
                      </td>
                      <td className="px-2 py-1">
                        <input
                          className="field w-40 font-mono"
                          aria-label={`Serial, ${bayName(unit, bay)}`}
                          value={row.serial}
                          onChange={(event) => change(bay, { serial: event.target.value })}
                        />
                      </td>
                      <td className="px-2 py-1">
                        <input
                          className="field w-36"
                          aria-label={`Model, ${bayName(unit, bay)}`}
                          value={row.model}
                          onChange={(event) => change(bay, { model: event.target.value })}
                        />
                      </td>
                      <td className="px-2 py-1">
                        <select
                          className="field w-36"
                          aria-label={`From a drawer, ${bayName(unit, bay)}`}
                          value=""
                          onChange={(event) => {
                            const drive = drawers.find(({ serial }) => serial === event.target.value);
                            if (drive) change(bay, { size: `${String(drive.bytes)} B`, serial: drive.serial, model: drive.model ?? '' });
                          }}
                        >
                          <option value="">choose…</option>
                          {free.map(({ serial, bytes, place }) => (
                            <option key={serial} value={serial}>
                              {formatBytes(bytes)}, {serial}, {place.site}
                            </option>
                          ))}
                        </select>
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
        </section>
        <section aria-label="Pool" className="grid gap-4 sm:grid-cols-2">
          <h2 className="text-lg sm:col-span-2">What they become</h2>
          <label className="block">
            <span className="mb-1 block font-semibold">Layout</span>
            <select
              className="field"
              value={scheme}
              disabled={decided !== undefined}
              aria-describedby="decided"
              onChange={(event) => setChosen(event.target.value as Scheme)}
            >
              {offered.map((one) => (
                <option key={one} value={one}>
                  {factsOf(one).name}
                </option>
              ))}
            </select>
            <span id="decided" className="mt-1 block text-sm text-muted">
              {decided !== undefined && `This family makes it of ${count === 1 ? 'one drive' : `${String(count)} drives`} by itself, at the first power-on.`}
            </span>
          </label>
          <Field label="Name of the pool" value={name} maxLength={60} onChange={(event) => setName(event.target.value)} />
          <Field label="Spares" type="number" min={0} max={1000} value={spares} onChange={(event) => setSpares(event.target.value)} />
          {isGrouped && (
            <label className="block">
              <span className="mb-1 block font-semibold">Width of a group</span>
              <select className="field" value={width} onChange={(event) => setWidth(event.target.value)}>
                {widths.map((one) => (
                  <option key={one} value={one}>
                    {one} drives
                  </option>
                ))}
              </select>
            </label>
          )}
          <label className="block">
            <span className="mb-1 block font-semibold">File system</span>
            <select className="field" value={fileSystem} onChange={(event) => setFileSystem(event.target.value)}>
              {fileSystems.map(({ name: of }) => (
                <option key={of} value={of}>
                  {of}
                </option>
              ))}
            </select>
          </label>
          <Field
            label="To copy in"
            value={copy}
            placeholder="1.3 TB"
            hint="Left empty when it starts bare"
            fault={copyFault}
            autoComplete="off"
            onChange={(event) => setCopy(event.target.value)}
          />
          {copyBytes > 0 && (
            <label className="block">
              <span className="mb-1 block font-semibold">It comes over</span>
              <select className="field" value={copyOver} onChange={(event) => setCopyOver(event.target.value as CopyLink)}>
                <option value="1">1 Gbit/s Ethernet</option>
                <option value="2.5">2.5 Gbit/s Ethernet</option>
                <option value="10">10 Gbit/s Ethernet</option>
                <option value="cable">a drive on a cable</option>
              </select>
            </label>
          )}
        </section>
        {fault && <Notice grave>{fault.sentence}</Notice>}
        <div>
          <Button
            look="main"
            type="submit"
            disabled={busy || tried === null || count === 0 || stop !== undefined || copyFault !== undefined || Object.keys(problems).length > 0}
          >
            Begin the plan
          </Button>
        </div>
      </form>
      <aside aria-label="The plan as it would be" className="border border-line bg-surface p-4" data-plan-preview>
        <h2 className="text-lg">The plan as it would be</h2>
        {why !== null && <p className="mt-1 font-semibold text-thinned">{why}</p>}
        {Object.entries(problems).map(([bay, sentence]) => (
          <p key={bay} className="mt-1 font-semibold text-thinned">
            {BayName(unit, bay)}: {sentence}
          </p>
        ))}
        {stop && <p className="mt-1 font-semibold text-thinned">{stop.refusal?.sentence}</p>}
        {tried && (
          <>
            <p className="text-muted">
              {tried.plan.steps.length} steps, about {hoursWords(hours)} in all, most of it waiting.
            </p>
            <ol className="mt-2 max-h-[520px] overflow-y-auto">
              {tried.plan.steps.map((step, i) => (
                <li key={step.id}>
                  {step.part !== tried.plan.steps[i - 1]?.part && <h3 className="mt-3 text-sm font-semibold text-muted">{step.part}</h3>}
                  <span className="block border-b border-line py-1">
                    {step.title}
                    {step.hours !== undefined && <span className="text-muted"> · {hoursWords(step.hours)}</span>}
                  </span>
                </li>
              ))}
            </ol>
          </>
        )}
      </aside>
    </div>
  );
}
