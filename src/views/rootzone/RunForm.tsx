import { useForm } from 'react-hook-form';
import type { Drains } from '@/contract/drains';
import { decimal } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { blockedCups } from '@/core/rootzone/volume';
import { understandField } from '../bench/understand';
import { enter } from '../data/queue';
import { InstrumentChoice, usualInstrument } from '../entry/InstrumentChoice';
import { Field } from '../ui/Field';
import { caughtTyped } from './run-typed';

interface Values {
	minutes: string;
	first: string;
	given: string;
	ran: string;
	feedEc: string;
	drainEc: string;
	feedPh: string;
	drainPh: string;
	instrument: string;
}
const EMPTY = { minutes: '', first: '', given: '', ran: '', feedEc: '', drainEc: '', feedPh: '', drainPh: '' };

/** Logs a run: how long, cups under drippers, trays under bags, and what feed and drain read. All but one may be left empty. */
export function RunForm({
	drains: d,
	name,
	site,
	onLogged,
}: {
	drains: Drains;
	/** Of the system. */
	name: string;
	site: SiteView;
	onLogged: (said: string) => void;
}) {
	const usual = d.drain_station === null ? null : usualInstrument(site, d.drain_station, null);
	const form = useForm<Values>({ defaultValues: { ...EMPTY, instrument: usual ?? '' } });
	const { register, watch, formState } = form;
	const { errors } = formState;
	const caught = (text: string) =>
		caughtTyped(text, site.units) !== undefined || 'Write mL of each cup with blanks between, or litres: 1.5 L.';
	const cups = (text: string) => {
		const c = caughtTyped(text, site.units);
		return c && 'cups' in c ? c.cups : [];
	};
	const blocked = blockedCups(cups(watch('given')));
	const reads = (quantity: 'ec' | 'ph') => (text: string) => {
		const v = understandField(quantity, text, null, site.units, null);
		return v.state !== 'problem' || v.message;
	};
	const readings = (ec: string, ph: string, instrument: string) =>
		(
			[
				['ec', ec],
				['ph', ph],
			] as const
		).flatMap(([quantity, text]) => {
			const v = understandField(quantity, text, null, site.units, null);
			return v.state === 'value'
				? [{ quantity: v.quantity, value: v.digits, unit: v.unit, instrument: instrument || null }]
				: [];
		});
	const submit = form.handleSubmit(async (v) => {
		const [given, ran] = [caughtTyped(v.given, site.units), caughtTyped(v.ran, site.units)];
		try {
			const body = {
				system: d.system,
				// When it ran, also where it is sent later.
				time: new Date().toISOString(),
				minutes: v.minutes.trim() === '' ? null : decimal(v.minutes.trim())!,
				first_drain_min: v.first.trim() === '' ? null : decimal(v.first.trim())!,
				...(given && 'litres' in given ? { applied_l: given.litres } : {}),
				...(given && 'cups' in given ? { applied_cups_ml: given.cups } : {}),
				...(ran && 'litres' in ran ? { drained_l: ran.litres } : {}),
				...(ran && 'cups' in ran ? { drained_cups_ml: ran.cups } : {}),
				feed: readings(v.feedEc, v.feedPh, v.instrument),
				drain: readings(v.drainEc, v.drainPh, v.instrument),
			};
			const result = await enter('POST /irrigations', { body }, `a run of ${name}`);
			form.reset({ ...EMPTY, instrument: v.instrument });
			window.dispatchEvent(new Event('cordwain:changed'));
			onLogged(result.kind === 'stored' ? 'The run is kept.' : result.message);
		} catch (error) {
			form.setError('root', { message: (error as Error).message });
		}
	});
	const field = (
		key: keyof Values,
		label: string,
		placeholder: string,
		validate: (text: string) => true | string,
		hint = '',
	) => (
		<Field label={label} width="w-full" wrong={errors[key]?.message}>
			<input
				id={`run-${key}`}
				className="field"
				inputMode={key === 'given' || key === 'ran' ? 'text' : 'decimal'}
				autoComplete="off"
				placeholder={placeholder}
				aria-invalid={!!errors[key]}
				{...register(key, { validate: (text) => text.trim() === '' || validate(text) })}
			/>
			{hint && <span className="text-soft text-[0.85rem] block pt-0.5">{hint}</span>}
		</Field>
	);
	const many = (n: number | undefined, what: string) =>
		n ? `of ${n} ${what}` : `say in Setup how many ${what} there are`;
	return (
		<form className="note-rule grid gap-2" data-run-form onSubmit={submit}>
			<h2>Log a run</h2>
			<div className="grid grid-cols-2 gap-2">
				{field('minutes', 'Minutes', '6', (t) => (decimal(t.trim()) ?? 0) > 0 || 'Write how many minutes it ran.')}
				{field('first', 'First drain after, min', '', (t) => (decimal(t.trim()) ?? -1) >= 0 || 'Write minutes.')}
			</div>
			{field(
				'given',
				'Caught under drippers, mL each',
				'100 104 98, or 9.6 L in all',
				caught,
				many(d.watering.drippers, 'drippers'),
			)}
			{blocked.length > 0 && (
				<p className="text-warning" data-blocked>
					Cup {blocked.map((i) => i + 1).join(' and ')} caught less than half of the others: look whether that dripper
					is blocked. It counts in the mean.
				</p>
			)}
			{field('ran', 'Ran off, mL in each tray', '60 72 65, or 1.5 L in all', caught, many(d.watering.bags, 'bags'))}
			<div className="grid grid-cols-2 gap-2">
				{field('feedEc', 'Feed EC', '', reads('ec'))}
				{field('drainEc', 'Drain EC', '', reads('ec'))}
				{field('feedPh', 'Feed pH', '', reads('ph'))}
				{field('drainPh', 'Drain pH', '', reads('ph'))}
			</div>
			<InstrumentChoice
				label="Measured with"
				width="w-full"
				site={site}
				value={watch('instrument')}
				unsaid
				onChange={(code) => form.setValue('instrument', code)}
			/>
			{errors.root && (
				<p role="alert" className="text-error">
					{errors.root.message}
				</p>
			)}
			<div>
				<button type="submit" className="act act-main" disabled={formState.isSubmitting}>
					Keep the run
				</button>
			</div>
		</form>
	);
}
