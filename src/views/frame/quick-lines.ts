import type { Engine } from '@/core/judge/engine';
import { formatTime } from '@/core/quantity/time';
import type { EventDoubt } from '@/core/reading/event-doubt';
import type { Reading, Verdict } from '@/core/reading/model';
import { parseQuickLine, type QuickAsk, type QuickContext, type QuickSample } from '@/core/reading/quick-line';
import type { SiteView } from '@/core/reading/site-view';
import { eventLine } from '@/words/en/event';
import { enter } from '../data/queue';
import type { Undo } from '../data/undo';
import { doubtHere, type EventBody } from '../entry/event-values';
import { type DraftSample, idsOf, judgeDraft, readingsOf, save } from '../entry/sample';

/** One typed line, understood and judged: a sample, or something that was done to the water. */
export interface QuickUnderstood {
	text: string;
	said: QuickSample;
	/** A sample that can be saved. */
	draft: DraftSample | null;
	verdicts: Verdict[];
	values: Reading[];
	/** An event that can be logged; without its time. */
	event: Omit<EventBody, 'time'> | null;
	/** What is asked about the event before it is kept. */
	doubt: EventDoubt | null;
}

export const contextOf = (site: SiteView): QuickContext => ({
	stations: site.stations.map((s) => ({ code: s.info.code, name: s.name })),
	instruments: site.instruments.map((i) => ({ code: i.info.code, name: i.name, ppmScale: i.info.ppmScale })),
	ecUnit: site.units.ec,
	tempUnit: site.units.temp,
});

export function understand(text: string, context: QuickContext, site: SiteView, engine: Engine): QuickUnderstood {
	const said = parseQuickLine(text, context);
	const clear = said.station !== null && said.asks.length === 0;
	const event =
		clear && said.event
			? {
					station: said.station!,
					kind: said.event.kind,
					amount: said.event.amount,
					unit: said.event.unit,
					product: said.event.product,
					note: said.event.note || said.note,
				}
			: null;
	const draft: DraftSample | null =
		clear && said.readings.length > 0
			? {
					station: said.station!,
					instrument: said.instrument,
					values: said.readings,
					note: said.note,
					at: null,
					source: 'quick',
				}
			: null;
	return {
		text,
		said,
		draft,
		verdicts: draft ? judgeDraft(engine, draft, site) : [],
		values: draft ? readingsOf(draft, Date.now(), site) : [],
		event,
		doubt: event && doubtHere(event, site),
	};
}

/** Between the field and what reads it: Enter may be pressed before that is there. */
export interface QuickEnter {
	wanted: boolean;
	submit: (() => void) | null;
}

/** What became of lines that were saved, and what can be taken back of it. */
export interface QuickSaved {
	words: string;
	stored: boolean;
	undo: Undo | null;
}

/** Some lines were stored, and these were not: only they are to be sent again. */
export class PartlySaved extends Error {
	constructor(
		message: string,
		readonly left: string[],
	) {
		super(message);
	}
}

/** Saves every line, each once. @throws PartlySaved with the lines that are left */
export async function saveLines(
	lines: readonly QuickUnderstood[],
	site: SiteView,
	engine: Engine,
): Promise<QuickSaved> {
	// Pasted lines are moments apart, so that two of one station are two samples.
	const now = Date.now();
	const timed = lines.map((line, i) => ({ line, at: now - (lines.length - 1 - i) * 1000 }));
	const name = (code: string) => site.stations.find((s) => s.info.code === code)?.name ?? code;
	const left = new Set(lines);
	const words: string[] = [];
	let undo: Undo | null = null;
	let kept: string | null = null;
	try {
		const samples = timed.filter(({ line }) => line.draft);
		if (samples.length > 0) {
			const drafts = samples.map(({ line, at }) => ({ ...line.draft!, at }));
			const result = await save(drafts);
			for (const d of drafts) engine.take(readingsOf(d, d.at, site));
			undo = result.kind === 'stored' ? { readings: idsOf(result.stored) } : 'waiting';
			if (result.kind === 'kept') kept = result.message;
			words.push(drafts.map((d) => name(d.station)).join(', '));
			for (const { line } of samples) left.delete(line);
		}
		for (const { line, at } of timed) {
			if (!line.event) continue;
			const what = eventLine(name(line.event.station), line.event);
			const result = await enter('POST /events', { body: { ...line.event, time: formatTime(at) } }, what);
			undo = result.kind === 'stored' ? { event: result.answer.id } : null;
			if (result.kind === 'kept') kept = result.message;
			words.push(what);
			left.delete(line);
		}
	} catch (error) {
		throw new PartlySaved(
			(error as Error).message,
			lines.filter((l) => left.has(l)).map((l) => l.text),
		);
	}
	return {
		words: kept ?? `Saved: ${words.join('; ')}.`,
		stored: kept === null,
		// Several things at once are taken back one by one, in the lists.
		undo: words.length === 1 ? undo : null,
	};
}

export const askText = (ask: QuickAsk, names: Map<string, string>): string => {
	switch (ask.about) {
		case 'station':
			return ask.candidates.length === 0
				? 'Which station? Begin with its name.'
				: `Which one: ${ask.candidates.map((c) => names.get(c) ?? c).join(' or ')}?`;
		case 'ppm-scale':
			return 'ppm on which scale? Type ppm500, ppm640 or ppm700, or name the meter.';
		case 'amount':
			return `How much is “${ask.word}”? Write a number and a unit, as +65 L or acid 38 ml.`;
		case 'word':
			return `“${ask.word}” is not understood.`;
		case 'value':
			return 'Type what you read, as ph 5.8 ec 1.92 t 21.4, or what was done, as +65 L.';
	}
};
