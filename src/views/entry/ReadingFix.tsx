import { useForm } from 'react-hook-form';
import type { StoredReading } from '@/contract/readings';
import type { SiteView } from '@/core/reading/site-view';
import { enter } from '../data/queue';
import { Field, Wrong } from '../ui/Field';
import { unitLabel } from '../ui/format';
import { changesSomething, type FixValues, fixOf, readFix, unitsToFix } from './fix-values';
import { heldInHand } from './InstrumentChoice';
import { StationOptions } from './StationOptions';

/** What was wrong with a reading, whatever it was: value, unit, where, with what, when. The original stays in its history. */
export default function ReadingFix({
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
	return (
		<form onSubmit={submit} className="border-l-4 border-line pl-3 mt-2" data-fix={r.id}>
			<div className="flex flex-wrap gap-2 items-start">
				<Field label="It was" width="w-28" wrong={errors.value?.message}>
					<input className="field" inputMode="decimal" autoComplete="off" {...register('value')} />
				</Field>
				{units.length > 1 && (
					<Field label="Unit" width="w-32">
						<select className="field" {...register('unit')}>
							{units.map((u) => (
								<option key={u} value={u}>
									{unitLabel(u)}
								</option>
							))}
						</select>
					</Field>
				)}
				<Field label="At" width="w-44">
					<select className="field" {...register('station')}>
						<StationOptions site={site} also={was.station} />
					</select>
				</Field>
				<Field label="With" width="w-36">
					<select className="field" {...register('instrument')}>
						<option value="">not said</option>
						{heldInHand(site).map((i) => (
							<option key={i.info.code} value={i.info.code}>
								{i.name}
							</option>
						))}
						{was.instrument && !heldInHand(site).some((i) => i.info.code === was.instrument) && (
							<option value={was.instrument}>
								{site.retired.find((x) => !x.station && x.code === was.instrument)?.name ?? was.instrument}
							</option>
						)}
					</select>
				</Field>
				<Field label="When" width="w-44" wrong={errors.when?.message}>
					<input className="field" autoComplete="off" {...register('when')} />
				</Field>
				<Field label="Note" width="grow min-w-44">
					<input className="field" maxLength={2000} {...register('note')} />
				</Field>
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
			<Wrong>{errors.root?.message}</Wrong>
			<p className="text-soft text-[0.85rem] mt-1">
				What was typed first stays in the record; what hung on it is judged anew.
			</p>
		</form>
	);
}
