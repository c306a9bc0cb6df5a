import { PROBLEMS, type ProblemCode } from '@/contract/problems';
import { instrumentThen } from '@/core/judge/context';
import type { Calibrated } from '@/core/probe/calibration';
import { examineCalibration } from '@/core/probe/examine-calibration';
import { likelyStandard, nominalValue, standardNamed } from '@/core/probe/standards';
import {
	type CalibrationPointRow,
	insertCalibration,
	listCalibrations,
	listLots,
	listProbes,
	setWithdrawn,
} from '@/store/calibrations';
import { isLate } from '@/store/judging';
import type { InstrumentRow } from '@/store/line';
import type { Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { bottleWords, CALIBRATION_PROBLEM } from '@/words/en/calibration';
import { judgeAgain } from './judging';
import { freshRecord } from './probe-record';
import { Refusal } from './refusal';
import { workIn } from './restate';
import type { SiteContext } from './site';

export interface TypedCalibration {
	instrument: string;
	quantity: 'ph' | 'ec';
	at: number;
	kind: 'check' | 'adjust';
	tempC: number | null;
	settleS: number | null;
	note: string;
	/** The person has seen the doubts and means it. */
	acceptDoubts: boolean;
	points: {
		standard: string;
		lot: string;
		nominal: number | null;
		asFound: number | null;
		asLeft: number | null;
		mv: number | null;
	}[];
}

export interface CalibrationOutcome {
	id: number;
	result: Calibrated;
	doubts: string[];
	/** What it changed in the past. */
	restated: number;
	rejected: number;
	provisional: boolean;
	points: CalibrationPointRow[];
}

const MINUTE = 60_000;
const refuse = (path: string, message: string, code: ProblemCode = 'bad-calibration') =>
	new Refusal(code, [{ path, message }]);

async function resolvePoints(
	db: Db,
	context: SiteContext,
	instrument: InstrumentRow,
	c: TypedCalibration,
	doubts: string[],
): Promise<CalibrationPointRow[]> {
	const lots = await listLots(db, context.site.id);
	const used = lots.some((l) => l.singleUse) ? await listCalibrations(db, context.site.id, {}) : [];
	return c.points.map((p, i) => {
		const path = `points.${i}`;
		const lot = p.lot === '' ? undefined : lots.find((l) => l.name === p.lot);
		const definition = standardNamed(lot?.standard ?? p.standard);
		let nominal = p.nominal;
		if (nominal === null) {
			if (c.tempC === null) throw refuse('temp_c', 'Type the temperature of the standard: its value depends on it.');
			const standard = lot?.ownTable
				? { name: lot.name, quantity: c.quantity, table: lot.ownTable, source: 'the bottle' }
				: definition;
			if (!standard)
				throw refuse(
					`${path}.standard`,
					`“${p.standard}” is not a standard known here. Type its value, or add the bottle with its table.`,
				);
			if (standard.quantity !== c.quantity)
				throw refuse(
					`${path}.standard`,
					`${standard.name} is not a standard for ${c.quantity === 'ph' ? 'pH' : 'EC'}.`,
				);
			const at = nominalValue(standard, c.tempC, instrumentThen(context.known, instrument.code, c.at));
			if (!at.ok)
				throw refuse(
					'temp_c',
					`The table of ${standard.name} runs from ${at.problem.low} to ${at.problem.high} °C; at ${c.tempC} °C its value is not known. Bring it to the room's temperature.`,
				);
			nominal = at.value;
		}
		if (definition && p.asFound !== null && c.tempC !== null && !c.acceptDoubts) {
			const other = likelyStandard(
				definition,
				p.asFound,
				c.tempC,
				lots.map((l) => l.standard),
			);
			if (other)
				throw refuse(
					`${path}.as_found`,
					`It reads ${p.asFound}: is this ${bottleWords(other.name, lots)}? Change the standard, or say that it is right as it is.`,
					'wrong-standard',
				);
		}
		if (lot?.singleUse && used.some((u) => u.points.some((x) => x.lot === lot.name)))
			doubts.push(`${lot.name} is for a single use and was used before; take a fresh one.`);
		if (lot?.expires && Date.parse(lot.expires) < c.at)
			doubts.push(`The bottle ${lot.name} expired on ${lot.expires}; check with a fresh one.`);
		return {
			standard: lot?.standard ?? p.standard,
			lot: p.lot,
			nominal,
			asFound: p.asFound,
			asLeft: c.kind === 'adjust' ? p.asLeft : null,
			mv: p.mv,
		};
	});
}

/** Checks everything about a calibration before it is stored; throws what has to be mended, collects what is only doubtful. */
async function examine(db: Db, context: SiteContext, c: TypedCalibration, now: number) {
	const instrument = context.instruments.find((i) => i.code === c.instrument);
	if (!instrument) throw refuse('instrument', `There is no instrument “${c.instrument}”.`);
	if (c.points.length === 0) throw refuse('points', 'Give at least one standard with what was found in it.');
	if (c.at > now + 10 * MINUTE) throw refuse('time', 'The time lies in the future.');
	const probe = (await listProbes(db, context.site.id)).find(
		(p) => p.instrument === c.instrument && p.quantity === c.quantity,
	);
	if (probe?.inService && c.at < Date.parse(probe.inService))
		throw refuse(
			'time',
			`The probe is in service since ${probe.inService}; the calibration is dated before it. Correct one of the two.`,
		);
	const others = await listCalibrations(db, context.site.id, { instrument: c.instrument, quantity: c.quantity });
	if (others.some((o) => Math.floor(o.at / MINUTE) === Math.floor(c.at / MINUTE)))
		throw new Refusal('same-minute', [
			{
				path: 'time',
				message: 'There is a calibration of this probe in the same minute. Withdraw it first, or correct the time.',
			},
		]);
	const doubts: string[] = [];
	const points = await resolvePoints(db, context, instrument, c, doubts);
	const result = examineCalibration(c.quantity, points, c.tempC, c.settleS);
	if (!result.ok) {
		const { problem } = result;
		throw refuse(
			'points',
			CALIBRATION_PROBLEM[problem],
			problem in PROBLEMS ? (problem as ProblemCode) : 'bad-calibration',
		);
	}
	if (others.some((o) => o.at > c.at))
		doubts.push('It lies before another calibration of this probe; the readings around it were worked out anew.');
	if (c.quantity === 'ph' && points.filter((p) => p.asFound !== null).length === 1)
		doubts.push('One buffer shows the offset only; the span is unknown.');
	return { instrument, points, result: result.value, doubts };
}

/** What a calibration would say, storing nothing: the live verdict of the guided page. */
export async function previewCalibration(
	db: Db,
	context: SiteContext,
	c: TypedCalibration,
	now: number,
): Promise<{ result: Calibrated; doubts: string[]; points: CalibrationPointRow[] }> {
	const { result, doubts, points } = await examine(db, context, c, now);
	return { result, doubts, points };
}

export async function enterCalibration(
	db: Db,
	context: SiteContext,
	c: TypedCalibration,
	by: { who: string; source: string; now: number; progress?: (done: number) => void },
): Promise<CalibrationOutcome> {
	return writing(db, async (client) => {
		const { instrument, points, result, doubts } = await examine(client, context, c, by.now);
		const before = await freshRecord(client, context.site.id);
		const id = await insertCalibration(client, context.site.id, {
			...c,
			instrumentId: instrument.id,
			points,
			doubts,
			source: by.source,
			enteredBy: by.who,
		});
		const outcomes = await workIn(client, context, c, before, by.progress);
		await insertAudit(client, context.site.id, by.who, 'calibration.entered', String(id), {
			instrument: c.instrument,
			quantity: c.quantity,
			kind: c.kind,
		});
		if (await isLate(client, context.site.id, c.at)) await judgeAgain(client, context, c.at, by.now);
		const own = outcomes.filter((o) => o.to === id);
		return {
			id,
			result,
			doubts,
			points,
			restated: own.filter((o) => o.status === 'restated').length,
			rejected: outcomes.filter((o) => o.status === 'rejected').length,
			provisional: own.some((o) => o.provisional),
		};
	});
}

/** Withdraws a calibration, or takes the withdrawal back; the readings it touched are worked out anew. */
export async function withdrawCalibration(
	db: Db,
	context: SiteContext,
	id: number,
	withdrawn: boolean,
	by: { reason: string; who: string; now: number; progress?: (done: number) => void },
): Promise<void> {
	await writing(db, async (client) => {
		const row = (await listCalibrations(client, context.site.id, { withWithdrawn: true })).find((c) => c.id === id);
		if (!row) throw new Refusal('no-such-calibration', [{ path: 'id', message: 'There is no such calibration.' }]);
		if (row.withdrawn === withdrawn) return;
		const before = await freshRecord(client, context.site.id);
		await setWithdrawn(client, context.site.id, id, withdrawn, by.reason, by.who);
		await workIn(client, context, row, before, by.progress);
		await judgeAgain(client, context, row.at, by.now);
		await insertAudit(
			client,
			context.site.id,
			by.who,
			withdrawn ? 'calibration.withdrawn' : 'calibration.reinstated',
			String(id),
			{ reason: by.reason },
		);
	});
}
