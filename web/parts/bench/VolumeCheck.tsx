'use client';
import { useState, type ReactNode } from 'react';
import type { Layout } from '~/core/layout/layout';
import type { Profile } from '~/core/platform/profile';
import { TB } from '~/core/quantity/bytes';
import { volumeAgainstPool } from '~/core/upkeep/volumeAgainstPool';
import { Notice } from '~/web/parts/form/Notice';
import { Tick } from '~/web/parts/form/Tick';

/** A volume planned on the pool: thin or thick, and when to be warned. */
export function VolumeCheck({ layout, profile }: { readonly layout: Layout; readonly profile: Profile }): ReactNode {
  const { thin: offersThin, count, nominalBytes, largestBytes } = profile.volumes;
  const room = layout.shownBytes - layout.fileSystemReserveBytes;
  const [terabytes, setTerabytes] = useState(
    String(Number(((nominalBytes ?? Math.min(room, largestBytes ?? room)) / TB).toFixed(1))),
  );
  const [isThin, setIsThin] = useState(offersThin);
  const bytes = Number(terabytes.replace(',', '.')) * TB;
  const isSize = Number.isFinite(bytes) && bytes > 0;
  const verdict = isSize ? volumeAgainstPool(bytes, room, isThin) : null;
  return (
    <section className="mt-4">
      <h3 className="mb-1">The volume on it</h3>
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-2">
          shown with
          <input
            value={terabytes}
            inputMode="decimal"
            aria-invalid={!isSize}
            className="field w-24"
            onChange={(event) => setTerabytes(event.target.value)}
          />
          TB
        </label>
        <Tick words="thin" isOn={isThin} isOff={!offersThin} onChange={setIsThin} />
      </div>
      {!isSize && <p className="text-thinned">Write a size in TB.</p>}
      {verdict && (verdict.fits ? <p>{verdict.sentence}</p> : <Notice>{verdict.sentence}</Notice>)}
      {isSize && largestBytes !== undefined && bytes > largestBytes && (
        <Notice grave>This family makes volumes of at most {(largestBytes / TB).toFixed(1)} TB.</Notice>
      )}
      {count === 'one' && <p className="mt-1 text-sm text-muted">This family makes one volume only.</p>}
    </section>
  );
}
