import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import type { Engine } from '@/core/judge/engine';
import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { permits } from '@/core/trust/trust';
import { fieldMeter, understandField } from '../bench/understand';
import { api } from '../data/client';
import { fixedValue } from '../entry/fix';
import { usualInstrument } from '../entry/InstrumentChoice';
import { type DraftSample, judgeDraft, readingsOf, save } from '../entry/sample';

/** What a step measured, canonical, with what the checks said of it. */
export interface Measured {
	value: number;
	flag: number | null;
	/** Why it was doubted, where a person kept it all the same. */
	doubt: string | null;
}

type Said = Pick<
	Got<Contract['POST /readings']>['samples'][number]['readings'][number],
	'id' | 'flag' | 'cause' | 'message'
>;
/** How what is measured is kept. */
export interface KeepReading {
	/** Stores it. @returns what the checks say of it; null when it waits on this device */
	take: (draft: DraftSample, at: number) => Promise<Said | null>;
	/** A person stands by a doubtful one. */
	stand: (id: number, measured: Measured) => Promise<void>;
}
/** By itself: as at Bench. */
const BY_ITSELF: KeepReading = {
	take: async (draft, at) => {
		const result = await save([{ ...draft, at }]);
		return (result.kind === 'stored' && result.stored.samples[0]?.readings[0]) || null;
	},
	stand: async (id) => {
		await api('POST /readings/:id/decision', { params: { id }, body: { kind: 'keep' } });
	},
};

export interface Measuring {
	site: SiteView;
	/** Knows the site, and what has been done to the water since. */
	engine: Engine;
	station: string;
	quantity: 'ph' | 'ec';
	note: string;
	/** Where it is a step of something. */
	keep?: KeepReading | undefined;
	onRead?: ((m: Measured) => void | Promise<void>) | undefined;
}

/** One value being measured in a step: as it is typed, what it means, and whether a doubt holds the step. */
export function useMeasure({ site, engine, station, quantity, note, keep = BY_ITSELF, onRead }: Measuring) {
	const [text, setText] = useState('');
	const [instrument, setInstrument] = useState(() => usualInstrument(site, station, quantity) ?? '');
	const [problem, setProblem] = useState('');
	const [busy, setBusy] = useState(false);
	const [doubted, setDoubted] = useState<(Measured & { id: number | null }) | null>(null);
	const field = useRef<HTMLInputElement>(null);
	// biome-ignore lint/correctness/useExhaustiveDependencies: another place is another field
	useEffect(() => field.current?.focus(), [station, quantity]);

	const meter = fieldMeter(site, instrument || null, quantity, Date.now());
	const v = understandField(quantity, text, meter, site.units, engine.expect(station, quantity, Date.now()));
	const draft: DraftSample | null =
		v.state === 'value'
			? {
					station,
					instrument: instrument || null,
					values: [{ quantity: v.quantity, digits: v.digits, unit: v.unit }],
					note,
					at: null,
					source: 'bench',
				}
			: null;
	const verdict = draft ? judgeDraft(engine, draft, site)[0] : undefined;
	const typed = draft ? readingsOf(draft, Date.now(), site)[0]?.value : undefined;
	const unit = quantity === 'ec' ? site.units.ec : 'pH';

	function fix() {
		const suggested = verdict?.deciding?.suggested;
		if (v.state !== 'value' || suggested == null) return;
		const to = verdict!.deciding!.cause === 'unit-slip' && quantity === 'ec' ? site.units.ec : v.unit;
		setText(fixedValue(suggested, to, v.digits));
		field.current?.focus();
	}
	async function submit() {
		if (busy) return;
		if (!draft || v.state !== 'value') return setProblem(`Type the ${QUANTITY[quantity].name} that the meter shows.`);
		setBusy(true);
		setProblem('');
		try {
			const at = Date.now();
			const said = await keep.take(draft, at);
			const reading = readingsOf(draft, at, site)[0]!;
			engine.take([reading]);
			const measured: Measured = { value: reading.value, flag: said?.flag ?? null, doubt: null };
			setText('');
			if (said && !permits(said, 'dose')) setDoubted({ ...measured, doubt: said.message, id: said.id });
			else {
				setDoubted(null);
				await onRead?.(measured);
			}
		} catch (error) {
			setProblem((error as Error).message);
		} finally {
			setBusy(false);
		}
	}
	async function stand() {
		if (!doubted) return;
		try {
			if (doubted.id !== null) await keep.stand(doubted.id, doubted);
			setDoubted(null);
			await onRead?.(doubted);
		} catch (error) {
			setProblem((error as Error).message);
		}
	}
	function onKey(e: KeyboardEvent<HTMLInputElement>) {
		if (e.key === 'f' && verdict?.deciding?.suggested != null && !/[a-z]$/i.test(text)) {
			e.preventDefault();
			fix();
		}
	}
	return {
		field,
		text,
		type: (to: string) => {
			setText(to);
			setProblem('');
		},
		instrument,
		setInstrument,
		problem,
		busy,
		doubted,
		v,
		verdict,
		typed,
		unit,
		fix,
		submit,
		stand,
		onKey,
	};
}
