import { useCallback, useEffect, useRef, useState } from 'react';
import type { Advice } from '@/contract/doses';
import type { Tank } from '@/contract/pages';
import type { Product } from '@/contract/products';
import type { Engine } from '@/core/judge/engine';
import { decimal } from '@/core/quantity';
import { api } from '../data/client';
import type { BatchLog } from './batch-log';
import { logEvent, type Pour } from './log-event';
import type { Measured } from './use-measure';
import { useNotOld, useTankNews } from './use-tank-news';
import { poured } from './words';

/** Far more than the whole way takes is a slip of the unit, asked about before it is stored. */
const SLIP_TIMES = 5;
const LEAST_WAY_ML = 0.01;
/** Beyond the interval by more than a pen tells. */
const BESIDE = 0.02;

interface Given {
	ml: number;
	predicted: number;
	low: number;
	high: number;
	/** By this device’s clock, when it has mixed. */
	mixedAt: number;
}

/** The same amount on the same reading, as it is shown: whoever has it in hand is not disturbed. */
const sameDose = (a: Advice, b: Advice): boolean =>
	a.do === 'dose' && b.do === 'dose' && poured(a.ml!) === poured(b.ml!) && a.ph === b.ph;

/** One tank being dosed: what is advised, what was given and waits for its pH, and what it did. */
export function useDose(
	engine: Engine,
	tank: Tank,
	product: Product,
	targetPh: number,
	litres: number | undefined,
	batch?: BatchLog | undefined,
	leaveInRange = false,
) {
	const [advice, setAdvice] = useState<Advice | null>(null);
	const [asked, setAsked] = useState(0);
	const [given, setGiven] = useState<Given | null>(null);
	const [told, setTold] = useState('');
	const [problem, setProblem] = useState('');
	const pouring = useRef(false);
	/** The last time it was asked, and which time it was: what is answered late is not what holds. */
	const last = useRef({ nr: 0, at: 0 });
	/** What the advice that is shown was asked with. */
	const answered = useRef('');

	async function ask(): Promise<Advice | null> {
		const at = Date.now();
		const nr = last.current.nr + 1;
		last.current = { nr, at };
		try {
			const body = {
				station: tank.code,
				product: product.name,
				target_ph: targetPh,
				...(leaveInRange ? { leave_in_range: true } : {}),
				...(litres !== undefined && litres > 0 ? { volume_l: litres } : {}),
			};
			const answer = await api('POST /mix/dose', { body });
			if (last.current.nr !== nr) return null;
			const again = answered.current === JSON.stringify(body);
			answered.current = JSON.stringify(body);
			setProblem('');
			setAsked(at);
			setAdvice((before) => (before && again && sameDose(before, answer) ? before : answer));
			return answer;
		} catch (error) {
			if (last.current.nr !== nr) return null;
			setAdvice(null);
			setProblem((error as Error).message);
			return null;
		}
	}
	/** Somebody else may be at the same tank, and what was advised grows old: two do not pour by one reading. */
	async function askAnew(entered: boolean): Promise<void> {
		if (given || pouring.current) return;
		const before = advice;
		const answer = await ask();
		if (entered && before?.do === 'dose' && answer && !sameDose(before, answer))
			setTold('Something was entered for this tank meanwhile: what stands here now goes by it.');
	}
	const news = useRef(askAnew);
	news.current = askAnew;
	useTankNews(
		tank.code,
		useCallback(() => void news.current(true), []),
	);
	useNotOld(
		() => (given ? Date.now() : last.current.at),
		() => void askAnew(false),
	);
	// biome-ignore lint/correctness/useExhaustiveDependencies: another tank, product or target is another question
	useEffect(() => {
		setGiven(null);
		setTold('');
		ask();
	}, [tank.code, product.name, targetPh, leaveInRange]);

	async function pour(text: string) {
		const amount = decimal(text.trim());
		if (amount === undefined || !(amount > 0) || !advice) return setProblem('How many millilitres were poured?');
		if (amount > SLIP_TIMES * Math.max(advice.ml_to_target ?? 0, LEAST_WAY_ML))
			return setProblem(
				`${amount} mL is far more than the whole way takes (${poured(advice.ml_to_target ?? 0)} mL): litres written for millilitres?`,
			);
		// A second click while the first is on its way pours nothing.
		if (pouring.current) return;
		pouring.current = true;
		try {
			const pour: Pour = {
				kind: product.kind === 'acid' ? 'acid_added' : 'base_added',
				amount,
				unit: 'mL',
				product: product.name,
			};
			if (batch)
				await batch.did(
					'dosed',
					`${poured(amount)} mL ${product.name}`,
					{ expected: advice.predicted_ph ?? null, amount },
					[pour],
				);
			else await logEvent(engine, tank.code, pour);
			setGiven({
				ml: amount,
				predicted: advice.predicted_ph!,
				low: advice.low_ph!,
				high: advice.high_ph!,
				mixedAt: Date.now() + (advice.wait_minutes ?? 0) * 60_000,
			});
			setTold('');
			setProblem('');
		} catch (error) {
			setProblem((error as Error).message);
		} finally {
			pouring.current = false;
		}
	}
	async function measured(m: Measured) {
		if (given) {
			const { predicted, low, high } = given;
			setTold(
				m.value < low - BESIDE || m.value > high + BESIDE
					? `It went to ${m.value.toFixed(2)}, outside the ${low.toFixed(2)} to ${high.toFixed(2)} that was expected. Was it mixed? Is the volume right?`
					: `It went to ${m.value.toFixed(2)}, expected ${predicted.toFixed(2)}.`,
			);
		}
		setGiven(null);
		// What was advised before the dose is no advice after it.
		setAdvice(null);
		await ask();
	}
	return { advice, asked, given, told, problem, ask, pour, measured };
}
