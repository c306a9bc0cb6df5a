import { useEffect, useReducer } from 'react';
import type { Lot } from '@/contract/calibrations';
import type { Probe } from '@/contract/probes';
import { type CalibrationPoint, evaluateCalibration } from '@/core/probe/calibration';
import { likelyStandard, nominalValue, type StandardDefinition, standardNamed } from '@/core/probe/standards';
import { decimal } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { ApiProblem, begin, inBackground, newKey } from '../data/client';
import { followJob, pendingJob } from '../data/job';
import { enter } from '../data/queue';
import type { Nominal } from './FoundStep';
import type { Outcome } from './Result';
import { blank, keepDraft, keptDraft, type Step, start } from './step';

interface State {
	/** instrument|quantity */
	chosen: string;
	kind: 'adjust' | 'check';
	temp: string;
	steps: Step[];
	settle: number | null;
	/** What is read is right although another bottle should show it. */
	doubtAccepted: boolean;
	busy: boolean;
	problem: string;
	/** It waits on this device. */
	kept: string;
	progress: string;
	outcome: Outcome | null;
}
export const probeKey = (p: { instrument: string; quantity: string }): string => `${p.instrument}|${p.quantity}`;
const isEc = (chosen: string): boolean => chosen.endsWith('|ec');

/** A calibration as it is being made: what is typed, what it says, and what became of it. */
export function useCalibration(
	site: SiteView,
	probes: readonly Probe[],
	lots: readonly Lot[],
	asked: Record<'instrument' | 'quantity', string | null>,
) {
	const [s, set] = useReducer(
		(now: State, change: Partial<State>): State => ({ ...now, ...change }),
		null,
		() => {
			const mostWanted = [...probes].sort((a, b) => Date.parse(a.due_at ?? '9999') - Date.parse(b.due_at ?? '9999'))[0];
			const chosen =
				asked.instrument && asked.quantity
					? `${asked.instrument}|${asked.quantity}`
					: mostWanted
						? probeKey(mostWanted)
						: '';
			return {
				chosen,
				kind: 'adjust' as const,
				temp: '',
				steps: start(isEc(chosen) ? 'ec' : 'ph'),
				settle: null,
				doubtAccepted: false,
				busy: false,
				problem: '',
				kept: '',
				progress: '',
				outcome: null,
			};
		},
	);
	useEffect(() => {
		const kept = keptDraft();
		if (kept && (!asked.instrument || kept.chosen === `${asked.instrument}|${asked.quantity}`)) set(kept);
		// Left while it was being worked out: take it up again.
		const running = pendingJob('calibration');
		if (running)
			followJob('POST /calibrations', 'calibration', running, (progress) => set({ progress })).then(
				(outcome) => set({ outcome }),
				(e: Error) => set({ problem: e.message }),
			);
	}, [asked]);
	const { chosen, kind, temp, steps } = s;
	useEffect(() => {
		if (temp || steps.some((x) => x.found)) keepDraft({ chosen, kind, temp, steps });
	}, [chosen, kind, temp, steps]);

	const probe = probes.find((p) => probeKey(p) === chosen) ?? probes[0];
	const q = probe?.quantity ?? 'ph';
	const tempC = decimal(temp.trim());
	const inMilli = q === 'ec' && site.units.ec === 'mS/cm';
	const toCanonical = (text: string): number | null => {
		const v = decimal(text.trim());
		// EC is typed as the site shows it.
		return v === undefined ? null : inMilli ? v * 1000 : v;
	};
	/** A bottle goes by its own table where it has one. */
	const standardOf = (step: Step): StandardDefinition | undefined => {
		const lot = lots.find((l) => l.name === step.lot && l.standard === step.standard);
		return lot?.own_table
			? { name: lot.name, quantity: q, table: lot.own_table, source: 'the bottle' }
			: standardNamed(step.standard);
	};
	const nominals = steps.map((step): Nominal | null => {
		const definition = standardOf(step);
		if (!definition || tempC === undefined || !probe) return null;
		const { compensates, alpha_pct_per_c: alphaPctPerC } = probe;
		const at = nominalValue(definition, tempC, { compensates, alphaPctPerC });
		return at.ok
			? { ok: true, value: at.value }
			: { ok: false, text: `its table runs from ${at.problem.low} to ${at.problem.high} °C` };
	});
	const points: CalibrationPoint[] = steps.flatMap((step, i) => {
		const nominal = nominals[i];
		const found = toCanonical(step.found);
		return nominal?.ok && found !== null
			? [{ nominal: nominal.value, asFound: found, mv: decimal(step.mv.trim()) }]
			: [];
	});
	const result = points.length > 0 && tempC !== undefined ? evaluateCalibration(q, points, tempC, s.settle) : null;
	const wrongBottle = steps
		.map((step, i) => {
			const named = standardNamed(step.standard);
			const found = toCanonical(step.found);
			const other =
				named && found !== null && tempC !== undefined
					? likelyStandard(
							named,
							found,
							tempC,
							lots.map((l) => l.standard),
						)
					: null;
			return other ? { i, other: other.name } : null;
		})
		.find((w) => w !== null);

	/** The server is away: it waits with the other entries, under the key that it was tried with. */
	async function keep(asked: Parameters<typeof enter<'POST /calibrations'>>[1], key: string) {
		const words = `calibration of ${probe!.name}, ${q === 'ph' ? 'pH' : 'EC'}`;
		const entered = await enter('POST /calibrations', inBackground(asked) as typeof asked, words, key);
		keepDraft(null);
		set({ kept: entered.kind === 'kept' ? entered.message : 'Stored.' });
	}
	async function submit() {
		if (s.busy || !probe) return;
		set({ busy: true, problem: '', kept: '' });
		const key = newKey();
		const body = {
			// Of this moment, whenever it arrives.
			time: new Date().toISOString(),
			instrument: probe.instrument,
			quantity: q,
			kind,
			temp_c: tempC ?? null,
			settle_s: s.settle,
			accept_doubts: s.doubtAccepted,
			points: steps
				.filter((x) => x.found.trim() !== '')
				.map((x) => ({
					standard: x.standard,
					lot: x.lot,
					as_found: toCanonical(x.found),
					as_left: kind === 'adjust' ? toCanonical(x.left) : null,
					mv: decimal(x.mv.trim()) ?? null,
				})),
		};
		try {
			const job = await begin('POST /calibrations', { body }, key);
			const outcome = await followJob('POST /calibrations', 'calibration', job, (progress) => set({ progress }));
			keepDraft(null);
			set({ outcome });
		} catch (error) {
			if (!(error instanceof ApiProblem && error.unreachable)) set({ problem: (error as Error).message });
			else await keep({ body }, key).catch((e: Error) => set({ problem: e.message }));
		} finally {
			set({ busy: false, progress: '' });
		}
	}
	return {
		s,
		probe,
		q,
		tempC,
		nominals,
		points,
		result,
		wrongBottle: s.doubtAccepted ? undefined : wrongBottle,
		unit: q === 'ph' ? '' : inMilli ? 'mS/cm' : 'µS/cm',
		show: (v: number) => (q === 'ph' ? v.toFixed(2) : inMilli ? (v / 1000).toFixed(3) : v.toFixed(0)),
		set,
		choose: (key: string) => set({ chosen: key, steps: start(isEc(key) ? 'ec' : 'ph') }),
		setKind: (to: State['kind']) =>
			set({ kind: to, steps: to === 'check' ? steps.slice(0, 1) : steps.length === 1 ? [steps[0]!] : steps }),
		setStep: (i: number, change: Partial<Step>) =>
			set({ doubtAccepted: false, steps: steps.map((x, k) => (k === i ? { ...x, ...change } : x)) }),
		addStep: () =>
			set({
				steps: [...steps, blank(q === 'ph' ? (steps.length === 1 ? 'pH 4.01' : 'pH 10.01') : 'KCl 2765')],
			}),
		dropStep: () => set({ steps: steps.slice(0, -1) }),
		/** From the beginning, with the same probe. */
		again: (to: State['kind']) => set({ outcome: null, kind: to, steps: start(q), settle: null, doubtAccepted: false }),
		submit,
	};
}
