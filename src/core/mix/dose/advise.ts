import { aimAt } from './aim';
import { type Believed, believe, explainsNewest } from './believed';
import { GUARDS } from './guards';
import { type Guard, type Guarded, visitsOf } from './guards/guard';
import { shownAfter } from './outcome';
import { type Rebound, reboundAfter } from './rebound';
import { type DoseQuestion, type Said, say } from './record';
import { strengthOfDoses } from './strength-of-doses';

/**
 * The next dose of acid or base for a tank: what its state (believed.ts) leads to, cut by guards that hold whatever is
 * believed (guards/). A dose comes with the pH it should lead to and with what happens afterwards.
 */
export type DoseAdvice =
	| { do: 'nothing' | 'refuse' | 'titrate'; said: Said }
	| { do: 'wait'; minutes: number; said: Said }
	| {
			do: 'dose';
			/** By the label, meq for each litre. */
			meqL: number;
			ml: number;
			/** What the whole way would take, by the middle estimate. */
			mlToTarget: number;
			/** When it is measured after the wait, with its 95 % interval. */
			predictedPh: number;
			low: number;
			high: number;
			/** Share of the whole way that is advised. */
			part: number;
			/** Minutes to wait before measuring. */
			waitMinutes: number;
			/** What decided the size, then what else is to be known. */
			said: Said[];
			rebound: Rebound;
	  };

export interface Advised {
	advice: DoseAdvice;
	/** Null where the question was refused before anything was reckoned. */
	believed: Believed | null;
	guarded: Guarded | null;
	/** By the label, a jug, or what logged doses say; null where nothing does. */
	strengthMeqMl: number | null;
}

const ON_TARGET = 0.05;
/** Less than this cannot be measured out, or would not be seen. */
const LEAST_MEQ_L = 0.002;
const HOURS = [1, 8, 24];
/** So near the target a pen that cannot tell the rest apart has done its work. */
const NEAR = 0.2;
/** A rebound of so much within a day is told. */
const REBOUNDS = 0.2;
/** And one of so much since the last dose, as the reason why less is wanted now. */
const CLIMBED = 0.1;

/** The next dose of acid or base for a tank, or why none is said. Asks the belief how far, the guards how far at most; codes without words. */
export function adviseDose(
	q: DoseQuestion,
	options: {
		/** A test leaves one out, or makes the belief wrong on purpose. */
		guards?: readonly Guard[];
		believe?: typeof believe;
		/** Hours after which the rebound is told. */
		hours?: readonly number[];
	} = {},
): Advised {
	const none = (advice: DoseAdvice): Advised => ({ advice, believed: null, guarded: null, strengthMeqMl: null });
	const refuse = (code: string, params: Said['params'] = {}): Advised =>
		none({ do: 'refuse', said: say(code, params) });
	const litres = q.litres ?? q.tank.holdsL;
	if (!(litres > 0 && Number.isFinite(litres))) return refuse('litres-unknown');
	const reading = q.record.ph.findLast((r) => r.at <= q.now) ?? null;
	const ph = q.ph ?? reading?.value;
	if (ph === undefined) return refuse('no-reading');
	if (!(ph >= 0 && ph <= 14 && q.targetPh >= 3 && q.targetPh <= 10)) return refuse('ph-impossible');
	const strengthMeqMl = q.product.strengthMeqMl ?? strengthOfDoses(q);
	const explained = q.doubt !== null && q.unexpectedOnly === true && explainsNewest(q, strengthMeqMl ?? 1);
	const doubt = explained ? null : q.doubt;
	const asked: DoseQuestion =
		q.ph === null
			? { ...q, doubt }
			: { ...q, record: { ...q.record, ph: [...q.record.ph, { at: q.now, value: q.ph, u: 0.02, by: null }] } };
	const sign = q.product.kind === 'acid' ? -1 : 1;
	const believed = (options.believe ?? believe)(asked, strengthMeqMl ?? 1);
	const phAt = q.ph === null ? reading!.at : q.now;
	const guarded: Guarded = {
		q: asked,
		b: believed,
		product: { ...q.product, strengthMeqMl: strengthMeqMl ?? 1 },
		ph,
		phAt,
		reading: q.ph === null ? reading : null,
		ecUsCm: ecNow(q, believed),
		sign,
		doses: believed.followed.doses.filter((d) => d.meqL * -sign > 0),
	};
	const done = (advice: DoseAdvice): Advised => ({ advice, believed, guarded, strengthMeqMl });
	const guards = options.guards ?? GUARDS;
	const verdicts = guards.map((g) => g.check(guarded));
	const wait = verdicts.find((v) => v?.say === 'wait');
	const refused = verdicts.find((v) => v?.say === 'refuse');
	const way = Math.abs(ph - q.targetPh);
	const onTarget = way <= ON_TARGET;
	const { range } = q.tank;
	const inRange = q.leaveInRange && range !== null && ph >= range[0] && ph <= range[1];
	// As near as this pen can tell, it is there.
	const near = refused?.said.code === 'probe-unsure' && way <= NEAR;
	// Old or doubted, a pH on target is still nothing to pour on; only then is it told that it is there.
	if (doubt) return done({ do: 'refuse', said: doubt });
	if (
		(onTarget || inRange || near) &&
		(!refused || refused.said.code.startsWith('probe') || refused.said.code === 'thin-water')
	)
		return done(
			wait?.say === 'wait'
				? { do: 'wait', minutes: wait.minutes, said: wait.said }
				: {
						do: 'nothing',
						said: say(onTarget ? 'on-target' : inRange ? 'in-range' : 'as-near-as-told', {
							ph,
							...refused?.said.params,
						}),
					},
		);
	if (q.targetPh < ph !== (q.product.kind === 'acid'))
		return done({ do: 'refuse', said: say(q.targetPh < ph ? 'wants-acid' : 'wants-base') });
	if (refused?.say === 'refuse') return done({ do: 'refuse', said: refused.said });
	if (wait?.say === 'wait') return done({ do: 'wait', minutes: wait.minutes, said: wait.said });
	if (strengthMeqMl === null || !(strengthMeqMl > 0)) return done({ do: 'titrate', said: say('strength-unknown') });

	const product = guarded.product;
	const aim = aimAt(believed, ph, q.targetPh, product);
	let meqL = aim.meqL;
	let deciding = say(
		aim.limitedBy === 'passing' ? 'aim-cliff' : aim.part > 0.9 ? 'aim-sure' : aim.part > 0.7 ? 'aim-fair' : 'aim-half',
	);
	const notes: Said[] = [];
	for (const v of verdicts) {
		if (v?.say !== 'at most') continue;
		if (v.said.code === 'alkalinity-nearly-spent') notes.push(v.said);
		if (v.meqL < meqL) {
			meqL = v.meqL;
			deciding = v.said;
		}
	}
	if (meqL < LEAST_MEQ_L)
		return done({ do: 'refuse', said: deciding.code.startsWith('aim') ? say('aim-nothing-safe') : deciding });
	const expected = shownAfter(believed, ph, meqL, product);
	const rebound = reboundAfter(believed, ph, meqL, product, options.hours ?? HOURS);
	const end = rebound.later.at(-1);
	if (sign < 0 && end && end.ph - expected.ph > REBOUNDS) notes.push(say('rebounds', { ph: end.ph, hours: end.hours }));
	// Why less is wanted now than in the morning, whatever decided the size.
	const last = guarded.doses.at(-1);
	if (sign < 0 && last && visitsOf(guarded).now.length === 0 && deciding.code !== 'another-visit')
		notes.push(
			ph > last.phAfter + CLIMBED ? say('rebounded', { from: last.phAfter, to: ph }) : say('another-visit', { meqL }),
		);
	return done({
		do: 'dose',
		meqL,
		ml: (meqL * believed.litres) / strengthMeqMl,
		mlToTarget: (aim.wayMeqL * believed.litres) / strengthMeqMl,
		predictedPh: expected.ph,
		low: expected.low,
		high: expected.high,
		part: aim.wayMeqL > 0 ? Math.min(meqL / aim.wayMeqL, 1) : 1,
		waitMinutes: believed.mixMinutes,
		said: [deciding, ...notes.filter((n) => n.code !== deciding.code)],
		rebound,
	});
}

/** The newest EC of this filling, else that of its water, else the newest of all where the record begins in the middle. */
function ecNow(q: DoseQuestion, b: Believed): number | null {
	const since = b.filling.filledAt;
	const newest = q.record.ec.findLast((e) => e.at <= q.now);
	if (newest && (since === null || newest.at >= since)) return newest.usCm;
	// Fed and not measured since: nobody knows.
	return b.filling.happenings.some((h) => h.event.kind === 'fed') ? null : (b.filling.water?.ecUsCm ?? null);
}
