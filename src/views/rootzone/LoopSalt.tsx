import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { CONSTANTS } from '@/core/chem/constants';
import { decimal } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { CAREFUL_LIMIT, CHLORIDE_LIMIT, loopOutlook, SODIUM_LIMITS } from '@/core/rootzone/loop-salt';
import { problemWords } from '@/words/en/problem';
import { useAsked } from '../data/queries';
import { volumeWithUnit } from '../mix/typed';
import { Field } from '../ui/Field';
import { shortDay } from '../ui/format';

const IONS = {
	sodium: { key: 'na_mg_l', mgPerMmol: CONSTANTS.sodium.value },
	chloride: { key: 'cl_mg_l', mgPerMmol: CONSTANTS.chlorine.value },
} as const;
type Ion = keyof typeof IONS;
const limitOf = (ion: Ion, crop: string) =>
	ion === 'chloride' ? CHLORIDE_LIMIT : (SODIUM_LIMITS[crop] ?? CAREFUL_LIMIT);

/** Salt in a loop: where it goes with this water, when it comes to what the crop bears, and what is to be let out. */
export function LoopSalt(things: Things) {
	const [ion, setIon] = useState<Ion>('sodium');
	return (
		<section className="note-rule mt-6 max-w-[46rem]" data-loop-salt={ion}>
			<h2>Salt in the loop</h2>
			<p className="text-soft">
				What comes with the water and is not taken up stays in a tank that is only topped up. For a tank that is emptied
				every few weeks it matters little.
			</p>
			<fieldset className="flex gap-1 my-2" aria-label="Salt">
				{(Object.keys(IONS) as Ion[]).map((x) => (
					<button
						key={x}
						type="button"
						aria-pressed={ion === x}
						className={`act ${ion === x ? 'act-main' : '!font-normal !border-line'}`}
						onClick={() => setIon(x)}
					>
						{x}
					</button>
				))}
			</fieldset>
			<OneSalt key={ion} ion={ion} {...things} />
		</section>
	);
}

interface Things {
	/** The tank. */
	station: string;
	fullL: number | null;
	drunkL: number | null;
	crop: string;
	site: SiteView;
}

function OneSalt({ ion, station, fullL, drunkL, crop, site }: Things & { ion: Ion }) {
	const { key, mgPerMmol } = IONS[ion];
	const mg = (mmol: number): string => `${Math.round(mmol * mgPerMmol)} mg/L`;
	const reports = useAsked('GET /reports', { query: {} }).data?.reports ?? [];
	// Which water fills it up is the grower's to say.
	const waters = [
		...new Map(
			[...reports]
				.reverse()
				.filter((r) => r.station !== station)
				.flatMap((r) => (r.ions[key] === undefined ? [] : [[r.station, r.ions[key]] as const])),
		),
	];
	/** Of the tank itself, newest first. */
	const own = reports
		.flatMap((r) =>
			r.station === station && r.ions[key] !== undefined ? [{ at: Date.parse(r.time), mg: r.ions[key] }] : [],
		)
		.sort((a, b) => b.at - a.at);
	const known = limitOf(ion, crop);
	const { register, watch } = useForm({
		defaultValues: {
			volume: fullL === null ? '' : String(fullL),
			drunk: drunkL === null ? '' : drunkL.toPrecision(2),
			source: '',
			now: '',
			limit: String(Math.round(known.limitMmolL * mgPerMmol)),
			taken: String(Math.round(known.takenMmolL * mgPerMmol)),
			bleed: '',
		},
	});
	const v = watch();
	const n = (text: string) => decimal(text.trim());
	const named = (code: string) => site.stations.find((x) => x.info.code === code)?.name ?? code;
	const source = n(v.source);
	const [volume, drunk, limit, taken] = [n(v.volume), n(v.drunk), n(v.limit), n(v.taken)];
	const ready = volume && drunk !== undefined && source !== undefined && limit && taken !== undefined;
	const now = n(v.now) ?? own[0]?.mg ?? source ?? 0;
	const found = ready
		? loopOutlook({
				volumeL: volume,
				drunkLPerDay: drunk,
				sourceMmolL: source / mgPerMmol,
				nowMmolL: now / mgPerMmol,
				limitMmolL: limit / mgPerMmol,
				takenMmolL: taken / mgPerMmol,
				bleedLPerDay: n(v.bleed) ?? 0,
			})
		: null;
	const field = (name: keyof typeof v, label: string, hint = '') => (
		<Field label={label} width="w-full">
			<input className="field" inputMode="decimal" autoComplete="off" {...register(name)} />
			{hint && <span className="text-soft text-[0.85rem] block pt-0.5">{hint}</span>}
		</Field>
	);
	return (
		<>
			<div className="grid sm:grid-cols-3 gap-3 my-2">
				{field('volume', 'Circulating, litres')}
				{field('drunk', 'Drunk a day, litres')}
				{field(
					'source',
					'In the water, mg/L',
					waters.length > 0
						? `By reports: ${waters.map(([code, of]) => `${named(code)} ${of}`).join(', ')}.`
						: 'From a laboratory report of the water that fills it up.',
				)}
				{field(
					'now',
					'In the loop now, mg/L',
					own.length > 0
						? `Measured ${own
								.slice(0, 3)
								.map((x) => `${x.mg} on ${shortDay(x.at, site.timezone)}`)
								.join(', ')}.`
						: 'As the water unless measured.',
				)}
				{field(
					'limit',
					'The crop bears, mg/L',
					`${ion === 'sodium' && crop in SODIUM_LIMITS ? crop : 'Careful'}: from memory, ask your adviser.`,
				)}
				{field('taken', 'It takes up there, mg/L')}
				{field('bleed', 'Let out a day, litres')}
			</div>
			{found && !found.ok && <p className="text-warning">{problemWords(found.problem)}</p>}
			{found?.ok && (
				<div aria-live="polite" data-salt-says>
					<p className="text-[1.1rem]">
						{found.value.daysToLimit === null ? (
							<>
								Stays within what the crop bears: it settles at <strong>{mg(found.value.settlesMmolL)}</strong>.
							</>
						) : found.value.daysToLimit === 0 ? (
							<>
								<strong>Over what the crop bears now.</strong>{' '}
								{found.value.renewL !== null &&
									`Renewing ${volumeWithUnit(Number(found.value.renewL.toPrecision(2)), site.units)} at once brings it to half of that.`}
							</>
						) : (
							<>
								Comes to what the crop bears in <strong>{Math.round(found.value.daysToLimit)} days</strong>.
							</>
						)}
					</p>
					<p>
						{found.value.bleedLPerDay === null
							? 'No bleed holds it: the water itself is as salty as the crop bears. Another water, or RO.'
							: found.value.bleedLPerDay === 0
								? 'Nothing has to be let out with this water.'
								: `Letting out ${volumeWithUnit(Number(found.value.bleedLPerDay.toPrecision(2)), site.units)} a day holds it there; with ${Math.round(100 * found.value.pureShare)} % of rain or RO water in what fills it up nothing has to.`}
					</p>
					<p className="text-soft text-[0.85rem]">What is let out carries feed: where it may go, local rules say.</p>
				</div>
			)}
		</>
	);
}
