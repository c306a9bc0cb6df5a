import { typedNumber } from '@/core/format/readings-row';
import { type Quantity, toCanonical, type Unit } from '@/core/quantity';
import { Engine } from '@/core/reading/engine';
import type { Reading, Verdict } from '@/core/reading/model';
import type { SiteView } from '@/core/reading/site-view';
import { ApiProblem, api } from '../api';

/** A sample as a person is entering it, and how it is judged and sent. */
export interface DraftValue {
	quantity: Quantity;
	digits: string;
	unit: Unit;
	/** Null: the sample's own instrument. */
	instrument?: string | null;
}
export interface DraftSample {
	station: string;
	instrument: string | null;
	values: DraftValue[];
	note: string;
	at: number | null;
	waitS?: number | null;
	source: 'bench' | 'quick';
}

export const engineOf = (site: SiteView): Engine =>
	Engine.restore(
		{
			stations: new Map(site.stations.map((s) => [s.info.code, s.info])),
			instruments: new Map(site.instruments.map((i) => [i.info.code, i.info])),
		},
		() => Date.now(),
		site.engine,
	);

const sampleTemp = (d: DraftSample): number | null => {
	const t = d.values.find((v) => v.quantity === 'temp');
	const value = t && typedNumber(t.digits);
	if (!t || !value) return null;
	const c = toCanonical(value.low, t.unit);
	return c >= -5 && c <= 60 ? Math.round(c * 100) / 100 : null;
};

export function readingsOf(d: DraftSample, at: number): Reading[] {
	const tempC = sampleTemp(d);
	return d.values.flatMap((v) => {
		const value = typedNumber(v.digits);
		if (!value) return [];
		const low = toCanonical(value.low, v.unit);
		const high = toCanonical(value.high, v.unit);
		return [
			{
				at,
				station: d.station,
				instrument: v.instrument ?? d.instrument ?? '',
				quantity: v.quantity,
				unit: v.unit,
				digits: value.digits,
				value: (low + high) / 2,
				halfWidth: (high - low) / 2,
				tempC: v.quantity === 'temp' ? null : tempC,
				waitS: d.waitS ?? null,
			},
		];
	});
}

export function judgeDraft(engine: Engine, d: DraftSample): Verdict[] {
	return engine.judge(readingsOf(d, d.at ?? Date.now()));
}

interface Body {
	time: string;
	station: string;
	instrument: string | null;
	quantity: Quantity;
	value: string;
	unit: string;
	temp_c: number | null;
	wait_s: number | null;
	note: string;
}

function bodyOf(d: DraftSample, at: number): Body[] {
	const tempC = sampleTemp(d);
	return d.values.map((v) => ({
		time: new Date(at).toISOString(),
		station: d.station,
		instrument: v.instrument ?? d.instrument,
		quantity: v.quantity,
		value: v.digits,
		unit: v.unit,
		temp_c: v.quantity === 'temp' ? null : tempC,
		wait_s: d.waitS ?? null,
		note: d.note,
	}));
}

const WAITING = 'cordwain.waiting';
type Waiting = { source: string; body: Body[] };

export const waiting = (): Waiting[] => {
	try {
		return JSON.parse(localStorage.getItem(WAITING) ?? '[]') as Waiting[];
	} catch {
		return [];
	}
};
const setWaiting = (list: Waiting[]) => localStorage.setItem(WAITING, JSON.stringify(list));

export type SaveResult = { kind: 'stored'; at: number } | { kind: 'kept'; message: string };

/** Stores samples; when the server or its database is away they wait on this device and are sent later. */
export async function save(drafts: readonly DraftSample[]): Promise<SaveResult> {
	const now = Date.now();
	const body = drafts.flatMap((d) => bodyOf(d, d.at ?? now));
	const source = drafts[0]!.source;
	try {
		await api(`/readings?source=${source}`, { json: body });
		return { kind: 'stored', at: now };
	} catch (error) {
		if (!(error instanceof ApiProblem) || !error.unreachable) throw error;
		setWaiting([...waiting(), { source, body }]);
		return { kind: 'kept', message: error.message };
	}
}

/** Sends what waits, oldest first; stops at the first that still cannot be sent. */
export async function sendWaiting(): Promise<number> {
	let sent = 0;
	for (;;) {
		const list = waiting();
		const first = list[0];
		if (!first) return sent;
		try {
			await api(`/readings?source=${first.source}`, { json: first.body });
		} catch (error) {
			if (error instanceof ApiProblem && error.unreachable) return sent;
			throw error;
		}
		setWaiting(waiting().slice(1));
		sent++;
	}
}
