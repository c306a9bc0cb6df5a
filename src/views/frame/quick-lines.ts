import type { Engine } from '@/core/judge/engine';
import { formatTime } from '@/core/quantity/time';
import type { EventDoubt } from '@/core/reading/event-doubt';
import type { Reading, Verdict } from '@/core/reading/model';
import { parseQuickLine, type QuickAsk, type QuickContext, type QuickSample } from '@/core/reading/quick-line';
import type { SiteView } from '@/core/reading/site-view';
import { eventLine } from '@/words/en/event';
import { enter } from '../data/queue';
import { doubtHere, type EventBody } from '../entry/event-values';
import { type DraftSample, judgeDraft, readingsOf, save } from '../entry/sample';

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

export const linesOf = (text: string): string[] =>
	text
		.split('\n')
		.map((l) => l.trim())
		.filter((l) => l !== '');

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
		verdicts: draft ? judgeDraft(engine, draft) : [],
		values: draft ? readingsOf(draft, Date.now()) : [],
		event,
		doubt: event && doubtHere(event, site),
	};
}

/** What became of lines that were saved, and what can be taken back: the samples, or the last event by its number. */
export interface QuickSaved {
	words: string;
	stored: boolean;
	undo: 'sample' | number | null;
}

/** Saves every line in its order, each once. */
export async function saveLines(
	lines: readonly QuickUnderstood[],
	site: SiteView,
	engine: Engine,
): Promise<QuickSaved> {
	// Pasted lines are moments apart, so that two of one station are two samples.
	const now = Date.now();
	const timed = lines.map((l, i) => ({ ...l, at: now - (lines.length - 1 - i) * 1000 }));
	const name = (code: string) => site.stations.find((s) => s.info.code === code)?.name ?? code;
	const words: string[] = [];
	let undo: QuickSaved['undo'] = null;
	let kept: string | null = null;
	for (const { event, at } of timed) {
		if (!event) continue;
		const what = eventLine(name(event.station), event);
		const result = await enter('POST /events', { body: { ...event, time: formatTime(at) } }, what);
		if (result.kind === 'stored') undo = result.answer.id;
		else kept = result.message;
		words.push(what);
	}
	const drafts = timed.flatMap((l) => (l.draft ? [{ ...l.draft, at: l.at }] : []));
	if (drafts.length > 0) {
		const result = await save(drafts);
		for (const d of drafts) engine.take(readingsOf(d, d.at));
		if (result.kind === 'stored') undo = 'sample';
		else kept = result.message;
		words.push(drafts.map((d) => name(d.station)).join(', '));
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
