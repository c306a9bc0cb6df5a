import { useCallback, useEffect, useRef, useState } from 'react';
import type { Contract } from '@/contract';
import type { Call } from '@/contract/operation';
import { decimal } from '@/core/quantity';
import { type MeterSample, type Refused, StreamIntake } from '@/core/reading/stream';
import { addressOf, api } from '../data/client';
import { atSiteHere } from '../data/site-here';

/** What a simulated meter is told to do. */
export type Act = Call<'POST /meters/:code/act', Contract['POST /meters/:code/act']>['body'];

/** What a meter streams: its newest sample, the points so far, what was left out, and whether it is still heard. */
export function useLiveMeter({
	instrument,
	simulated,
	station,
	onStep,
}: {
	instrument: string;
	simulated: boolean;
	station: string;
	onStep: (code: string) => void;
}) {
	const intake = useRef(new StreamIntake());
	const [shownNow, setShownNow] = useState<MeterSample | null>(null);
	const [listening, setListening] = useState(!simulated);
	const [lost, setLost] = useState(false);
	const [quiet, setQuiet] = useState<number | null>(null);
	const [refused, setRefused] = useState<Record<Refused, number> | null>(null);
	const [problem, setProblem] = useState('');

	const begin = useCallback(() => {
		intake.current = new StreamIntake();
		setShownNow(null);
		setRefused(null);
		setQuiet(null);
	}, []);

	useEffect(() => {
		if (!listening) return;
		const source = new EventSource(atSiteHere(addressOf('GET /meters/:code/stream', { params: { code: instrument } })));
		source.onopen = () => setLost(false);
		source.onerror = () => setLost(true);
		source.onmessage = (e: MessageEvent<string>) => {
			let raw: unknown = null;
			try {
				raw = JSON.parse(e.data);
			} catch {
				// Left to the intake, which counts it as unreadable.
			}
			const sample = intake.current.take(raw, performance.now());
			if (sample) setShownNow(sample);
			else setRefused({ ...intake.current.refused });
		};
		const timer = setInterval(() => setQuiet(intake.current.quietFor(performance.now())), 1000);
		return () => {
			source.close();
			clearInterval(timer);
		};
	}, [instrument, listening]);

	/** One thing after the other, in the order in which the hand does them. */
	const before = useRef<Promise<void>>(Promise.resolve());
	const inTurn = (does: () => Promise<void>): Promise<void> => {
		before.current = before.current.then(does);
		return before.current;
	};
	async function tell(body: Act, step?: string) {
		try {
			await api('POST /meters/:code/act', { params: { code: instrument }, body });
			setProblem('');
			if (step) onStep(step);
		} catch (error) {
			setProblem((error as Error).message);
		}
	}
	async function dip(water: Record<'temp' | 'ph' | 'ec', string>) {
		const number = (text: string) => (text.trim() === '' ? undefined : decimal(text.trim()));
		const ec = number(water.ec);
		await tell(
			{
				do: 'dip',
				station,
				water: {
					ph: number(water.ph),
					ec_us_cm: ec === undefined ? undefined : ec * 1000,
					temp_c: number(water.temp),
				},
			},
			'deep',
		);
		begin();
		setListening(true);
	}

	return {
		shownNow,
		listening,
		lost,
		quiet,
		refused,
		problem,
		points: (q: 'ph' | 'ec' | 'temp') => intake.current.points(q),
		act: (body: Act, step?: string) => inTurn(() => tell(body, step)),
		dip: (water: Record<'temp' | 'ph' | 'ec', string>) => inTurn(() => dip(water)),
		store: () =>
			inTurn(async () => {
				await tell({ do: 'store' });
				setListening(false);
				begin();
			}),
	};
}
