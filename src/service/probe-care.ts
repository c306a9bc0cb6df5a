import { type Storage, usualStorage } from '@/core/probe/care';
import { standardNamed } from '@/core/probe/standards';
import {
	insertProbeEvent,
	type LotRow,
	type ProbeEventRow,
	type ProbeRow,
	putLot,
	putProbe,
} from '@/store/calibrations';
import { markDue } from '@/store/judging';
import type { Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { freshRecord } from './probe-record';
import { Refusal } from './refusal';
import { workIn } from './restate';
import type { SiteContext } from './site';

function instrumentOf(context: SiteContext, code: string) {
	const instrument = context.instruments.find((i) => i.code === code);
	if (!instrument)
		throw new Refusal('unknown-instrument', [{ path: 'instrument', message: `There is no instrument “${code}”.` }]);
	return instrument;
}

/** What happened to a probe; a jump splits the interval between calibrations, so its readings are worked out anew. */
export async function logProbeEvent(
	db: Db,
	context: SiteContext,
	e: Omit<ProbeEventRow, 'id'>,
	who: string,
): Promise<number> {
	const instrument = instrumentOf(context, e.instrument);
	if ((e.before === null) !== (e.after === null))
		throw new Refusal('half-a-pair', [
			{
				path: e.before === null ? 'before' : 'after',
				message: 'Give the same water both before and after cleaning, or neither.',
			},
		]);
	return writing(db, async (client) => {
		const before = await freshRecord(client, context.site.id);
		const id = await insertProbeEvent(client, context.site.id, { ...e, instrumentId: instrument.id, who });
		await workIn(client, context, e, before);
		// From the next calibration on, its interval is learned without what lies across this.
		await markDue(client, context.site.id, e.at);
		await insertAudit(client, context.site.id, who, `probe.${e.kind}`, e.instrument, { quantity: e.quantity });
		return id;
	});
}

/** @returns a warning about the storage, empty when it is fit */
export async function saveProbe(
	db: Db,
	context: SiteContext,
	code: string,
	quantity: 'ph' | 'ec',
	p: Omit<ProbeRow, 'instrument' | 'quantity' | 'storage'> & { storage?: Storage | undefined },
	who: string,
): Promise<string> {
	const instrument = instrumentOf(context, code);
	const storage = p.storage ?? usualStorage(instrument.kind === 'ec' ? 'ec' : 'ph');
	await writing(db, async (client) => {
		const row: Omit<ProbeRow, 'instrument'> = { ...p, quantity, storage };
		await putProbe(client, context.site.id, { ...row, instrumentId: instrument.id });
		await insertAudit(client, context.site.id, who, 'probe.saved', code, row);
	});
	if (quantity === 'ph' && (storage === 'pure_water' || storage === 'tap'))
		return 'Pure or tap water strips a pH bulb of its ions. Keep it in storage solution; use water for rinsing only.';
	if (quantity === 'ph' && storage === 'dry')
		return 'A pH bulb left dry loses its hydrated layer. Rehydrate it in storage solution for hours, then calibrate.';
	return '';
}

export async function saveLot(db: Db, context: SiteContext, lot: Omit<LotRow, 'id'>, who: string): Promise<number> {
	if (!standardNamed(lot.standard) && !lot.ownTable)
		throw new Refusal('unknown-standard', [
			{
				path: 'standard',
				message: `“${lot.standard}” is not a standard known here. Give the bottle's own table of temperature and value.`,
			},
		]);
	const row = { ...lot, ownTable: lot.ownTable && [...lot.ownTable].sort((a, b) => a[0] - b[0]) };
	return writing(db, async (client) => {
		const id = await putLot(client, context.site.id, row);
		await insertAudit(client, context.site.id, who, 'lot.saved', row.name, row);
		return id;
	});
}
