'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { formatRate } from '~/core/quantity/formatRate';
import type { HoldingDrive } from '~/service/drives/readDrives';
import type { UnitState } from '~/core/unit/state';
import { whyNotRetired } from '~/core/unit/retireUnit';
import { Button, ButtonLink } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';
import type { Say } from '~/web/parts/record/useEventSheet';
import { WayOnButton } from '~/web/parts/way/Refused';
import { useRecord } from '~/web/parts/record/useRecord';
import { DIFFERING, FIELDS, headOf, ofFamily, wordsOf } from './aboutWords';
import { Moment } from './Moment';
import { StillOn } from './StillOn';
import { Row } from './Row';

const RetireForm = dynamic(() => import('./RetireForm').then((part) => part.RetireForm), { ssr: false });
const AboutForm = dynamic(() => import('./AboutForm').then((part) => part.AboutForm), { ssr: false });

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly mayRecord: boolean;
  /** Drives that came out with its data on them. */
  readonly holding: readonly HoldingDrive[];
}

/** What is known of the unit as a box, and the form that changes it. */
export function AboutView({ id, version, unit, mayRecord, holding }: Props): ReactNode {
  const [isEditing, setIsEditing] = useState(false);
  const [isRetiring, setIsRetiring] = useState(false);
  const recorder = useRecord();
  const retire: Say = async (event, sentence) => {
    const fault = await recorder.record({ unit: id, version, event, sentence });
    if (fault === null) setIsRetiring(false);
    return fault;
  };
  const isEmpty = unit.retired === undefined && whyNotRetired(unit) === undefined;
  const { details, place, speed } = unit;
  if (!isEditing) {
    return (
      <div className="grid gap-4">
        <dl className="grid max-w-[640px] grid-cols-[auto_1fr] gap-x-6 gap-y-1">
          <Row name="Family">{unit.profile.name}</Row>
          <Row name="Stands">
            {place.site}, {place.room}
            {place.shelf !== undefined && `, ${place.shelf}`}
          </Row>
          <Row name="Enclosures">
            {unit.enclosures
              .map(
                ({ name, bays, dial }) =>
                  `${name}, ${String(bays.length)} bays${dial === undefined ? '' : `, dial ${String(dial)}`}`,
              )
              .join('; ')}
          </Row>
          <Row name="Power">{unit.power}</Row>
          {FIELDS.filter((field) => details[field] != null).map((field) => (
            <Row key={field} name={headOf(field)}>
              <span className="whitespace-pre-wrap">{details[field]}</span>
            </Row>
          ))}
          {DIFFERING.map((field) => (
            <Row key={field} name={headOf(field)}>
              {wordsOf(field, details[field] ?? ofFamily(unit)[field])}
              {details[field] == null && <span className="text-muted">, as its family</span>}
            </Row>
          ))}
          {speed.baseline && (
            <Row name="Speed when new">
              reads {formatRate(speed.baseline.readBytesPerSecond)}, writes{' '}
              {formatRate(speed.baseline.writeBytesPerSecond)}, <Moment at={speed.baseline.at} />
            </Row>
          )}
          {speed.last && speed.last.at !== speed.baseline?.at && (
            <Row name="Speed measured last">
              reads {formatRate(speed.last.readBytesPerSecond)}, writes {formatRate(speed.last.writeBytesPerSecond)},{' '}
              <Moment at={speed.last.at} />
            </Row>
          )}
          <Row name="On the shelf since">
            <Moment at={unit.registeredAt} />
          </Row>
          {holding.length > 0 && (
            <Row name="Its data is still on">
              <StillOn holding={holding} />
            </Row>
          )}
          {unit.retired && (
            <Row name="Retired">
              <Moment at={unit.retired.at} />
              {unit.retired.note !== undefined && `, ${unit.retired.note}`}
            </Row>
          )}
        </dl>
        {mayRecord && (
          <div className="no-print flex flex-wrap gap-2">
            <Button onClick={() => setIsEditing(true)}>Change what is known</Button>
            {isEmpty && <Button onClick={() => setIsRetiring(true)}>Retire it…</Button>}
            {!isEmpty && !unit.retired && <ButtonLink href={`/units/${id}/retire`}>Retire it…</ButtonLink>}
          </div>
        )}
        {isRetiring && (
          <FormDialog title={`Retire ${unit.name}`} onClose={() => setIsRetiring(false)}>
            <RetireForm unit={id} version={version} name={unit.name} holding={holding} onSay={retire} />
            <WayOnButton way={recorder.way} />
          </FormDialog>
        )}
      </div>
    );
  }
  return <AboutForm id={id} version={version} unit={unit} onDone={() => setIsEditing(false)} />;
}
