import { useForm } from 'react-hook-form';
import type { StoredReading } from '@/contract/readings';
import type { SiteView } from '@/core/reading/site-view';
import { enter } from '../data/queue';
import { unitLabel } from '../ui/format';
import { changesSomething, type FixValues, fixOf, readFix, unitsToFix } from './fix-values';
import { heldInHand } from './InstrumentChoice';
import { StationOptions } from './StationOptions';

/** What was wrong with a reading, whatever it was: value, unit, where, with what, when. The original stays in its history. */
export function ReadingFix({
	reading: r,
	site,
	named,
	onDone,
	onBack,
}: {
	reading: StoredReading;
	site: SiteView;
	/** The reading in words. */
	named: string;
	onDone: () => void;
	onBack: () => void;
}) {
	const { register, handleSubmit, watch, setError, formState } = useForm<FixValues>({
		defaultValues: fixOf(r, site.timezone),
	});
	const { errors, isSubmitting } = formState;
	const [station, instrument, when] = watch(['station', 'instrument', 'when']);
	const was = fixOf(r, site.timezone);
	const ofSample = station !== was.station || instrument !== was.instrument || when !== was.when;
	const submit = handleSubmit(async (values) => {
		const read = readFix(values, r, Date.now(), site.timezone);
		if (!read.ok) return setError(read.field, { message: read.message });
		if (!changesSomething(read.body)) return onBack();
		try {
			await enter('POST /readings/:id/correction', { params: { id: r.id }, body: read.body }, `correction of ${named}`);
			onDone();
		} catch (error) {
			setError('root', { message: (error as Error).message });
		}
	});
	const units = unitsToFix(r.quantity, was.unit);
	const wrong = (message: string | undefined) =>
		message && (
			<span role="alert" className="text-error text-[0.85rem] block pt-1">
				{message}
			</span>
		);
	return (
		<form onSubmit={submit} className="border-l-4 border-line pl-3 mt-2" data-fix={r.id}>
			<div className="flex flex-wrap gap-2 items-start">
				<label className="block w-28">
					<span className="field-label">It was</span>
					<input className="field" inputMode="decimal" autoComplete="off" {...register('value')} />
					{wrong(errors.value?.message)}
				</label>
				{units.length > 1 && (
					<label className="block w-32">
						<span className="field-label">Unit</span>
						<select className="field" {...register('unit')}>
							{units.map((u) => (
								<option key={u} value={u}>
									{unitLabel(u)}
								</option>
							))}
						</select>
					</label>
				)}
				<label className="block w-44">
					<span className="field-label">At</span>
					<select className="field" {...register('station')}>
						<StationOptions site={site} also={was.station} />
					</select>
				</label>
				<label className="block w-36">
					<span className="field-label">With</span>
					<select className="field" {...register('instrument')}>
						<option value="">not said</option>
						{heldInHand(site).map((i) => (
							<option key={i.info.code} value={i.info.code}>
								{i.name}
							</option>
						))}
						{was.instrument && !heldInHand(site).some((i) => i.info.code === was.instrument) && (
							<option value={was.instrument}>{was.instrument}</option>
						)}
					</select>
				</label>
				<label className="block w-44">
					<span className="field-label">When</span>
					<input className="field" autoComplete="off" {...register('when')} />
					{wrong(errors.when?.message)}
				</label>
				<label className="block grow min-w-44">
					<span className="field-label">Note</span>
					<input className="field" maxLength={2000} {...register('note')} />
				</label>
			</div>
			{ofSample && (
				<label className="flex gap-2 items-center min-h-11">
					<input type="checkbox" {...register('whole')} /> and everything dipped with it
				</label>
			)}
			<div className="flex flex-wrap gap-2 mt-2">
				<button type="submit" className="act act-main" disabled={isSubmitting}>
					Correct it
				</button>
				<button type="button" className="act !font-normal !border-transparent" onClick={onBack}>
					Back
				</button>
			</div>
			{wrong(errors.root?.message)}
			<p className="text-soft text-[0.85rem] mt-1">
				What was typed first stays in the record; what hung on it is judged anew.
			</p>
		</form>
	);
}
