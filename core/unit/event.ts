import type { Recorded } from '../ledger/recorded';
import type { UnitEventBody } from '../../schemas/unitEvent';

/** What happened to a unit. The shapes and their limits stand in the schema; types are inferred from it. */
export type UnitEvent = UnitEventBody;
export type UnitEventKind = UnitEvent['kind'];
/** The event of one kind. */
export type Of<K extends UnitEventKind> = Extract<UnitEvent, { kind: K }>;

/** An event with when it happened (ISO 8601, UTC) and its place in the ledger. */
export type RecordedEvent = Recorded<UnitEvent>;
