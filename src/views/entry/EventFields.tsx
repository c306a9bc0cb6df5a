import type { UseFormReturn } from 'react-hook-form';
import type { EventKind } from '@/core/reading/model';
import type { SiteView } from '@/core/reading/site-view';
import { EVENT_WORDS } from '@/words/en/event';
import { useAsked } from '../data/queries';
import { Field } from '../ui/Field';
import { NameBox } from '../ui/NameBox';
import { type EventValues, LOGGED, unitsOf } from './event-values';
import { StationOptions } from './StationOptions';

/** What was done, how much of what, when and where: the same for what is logged and for what is mended. */
export function EventFields({
	form: { register, watch, setValue, formState },
	site,
	where = false,
}: {
	form: UseFormReturn<EventValues>;
	site: SiteView;
	/** Whether the station can be changed. */
	where?: boolean;
}) {
	const [kind, unit, station] = watch(['kind', 'unit', 'station']);
	const usual = unitsOf(kind);
	// What stands there already stays to be chosen, however it came there.
	const units = usual.length === 0 || unit === '' || usual.includes(unit) ? usual : [...usual, unit];
	const kinds: readonly EventKind[] = LOGGED.some((k) => k === kind) ? LOGGED : [...LOGGED, kind];
	const pours = usual.includes('mL');
	const shelf = useAsked('GET /products', {}, pours).data?.products.filter((p) => !p.retired) ?? [];
	const named = shelf.filter((p) =>
		kind === 'acid_added' || kind === 'base_added'
			? p.kind === kind.replace('_added', '')
			: kind === 'nutrient_added' && p.kind === 'nutrient',
	);
	const { errors } = formState;
	return (
		<div className="flex flex-wrap gap-2 items-start">
			<Field label="What" width="w-44">
				<select
					className="field"
					{...register('kind', {
						// An amount keeps its number and takes the usual unit of the other kind.
						onChange: (e) => setValue('unit', unitsOf(e.target.value)[0] ?? ''),
					})}
				>
					{kinds.map((k) => (
						<option key={k} value={k}>
							{EVENT_WORDS[k][0]}
						</option>
					))}
				</select>
			</Field>
			{where && (
				<Field label="Where" width="w-44">
					<select className="field" {...register('station')}>
						<StationOptions site={site} also={station} />
					</select>
				</Field>
			)}
			{units.length > 0 && (
				<>
					<Field label="How much" width="w-24" wrong={errors.amount?.message}>
						<input
							className="field"
							inputMode="decimal"
							autoComplete="off"
							aria-invalid={!!errors.amount}
							{...register('amount')}
						/>
					</Field>
					<Field label="Unit" width="w-20">
						<select className="field" {...register('unit')}>
							{units.map((u) => (
								<option key={u}>{u}</option>
							))}
						</select>
					</Field>
				</>
			)}
			{pours && (
				<NameBox
					label="Of what"
					width="w-52"
					value={watch('product')}
					onChange={(name) => setValue('product', name, { shouldDirty: true })}
					names={named.map((p) => p.name)}
				/>
			)}
			<Field label={kind === 'note' ? 'Words' : 'Note'} width="grow min-w-44" wrong={errors.note?.message}>
				<input className="field" maxLength={2000} aria-invalid={!!errors.note} {...register('note')} />
			</Field>
			<Field label="When; now if empty" width="w-44" wrong={errors.when?.message}>
				<input
					className="field"
					autoComplete="off"
					placeholder="7:30, yesterday 7:30, -2h"
					aria-invalid={!!errors.when}
					{...register('when')}
				/>
			</Field>
		</div>
	);
}
