import { useEffect, useRef } from 'react';
import { useFieldArray } from 'react-hook-form';
import type { PlanShown } from '@/contract/plans';
import { EASING } from '@/core/crop/plan';
import type { SiteView } from '@/core/reading/site-view';
import { EASING_WORDS, OVERTAKEN_WORDS } from '@/words/en/season';
import { ApiProblem } from '../data/client';
import { useCheckedForm } from '../ui/checked-form';
import { Wrong } from '../ui/Field';
import { readSeason, type SeasonValues, seasonField, stageValues } from './season-values';
import { ecUnit } from './typed';

type Body = { system: string; version: number; stages: PlanShown['stages'] };
const COLUMNS = ['name', 'days', 'ec', 'ph', 'begun'] as const;

/** The stages of a plan in a table that is typed in; each says how long it lasts and what the feed should be. */
export function SeasonForm({
	plan: stands,
	site,
	onSave,
}: {
	/** As it stands; version 0 where it is not kept yet. */
	plan: Body;
	site: SiteView;
	onSave: (body: Body) => Promise<void>;
}) {
	const { units } = site;
	/** The plan that is changed here: what somebody else makes of it meanwhile does not take away what is typed. */
	const from = useRef(stands);
	const read = (v: SeasonValues) => readSeason(from.current, v, units, { now: Date.now(), zone: site.timezone });
	const form = useCheckedForm<SeasonValues>({
		address: 'POST /plans',
		first: valuesOf(stands, units),
		read,
		fields: seasonField,
	});
	const { isDirty, isSubmitting } = form.formState;
	const overtaken = isDirty && !isSubmitting && stands.version !== from.current.version;
	const follow = () => {
		from.current = stands;
		form.reset(valuesOf(stands, units));
	};
	useEffect(() => {
		if (!isDirty && stands.version !== from.current.version) follow();
	});
	const { fields, append, remove } = useFieldArray({ control: form.control, name: 'stages' });
	const submit = form.handleSubmit(async (v) => {
		const typed = read(v);
		if (!typed.ok) return form.setError(typed.field, { message: typed.message });
		try {
			await onSave(typed.body as Body);
			// It is as it is kept: what stands is followed from here.
			form.reset(v);
		} catch (error) {
			if (!(error instanceof ApiProblem && error.errors.length > 0 && form.say(error.errors)))
				form.setError('root', { message: (error as Error).message });
		}
	});
	const heads = ['stage', 'days', `EC, ${ecUnit(units)}`, 'pH', 'begun'];
	const last = form.watch('stages').at(-1);
	const add = (s: SeasonValues['stages'][number]) => append({ ...s, begun: '' });
	return (
		<form {...form.steady} onSubmit={submit} className="max-w-[60rem]" data-season-form>
			<div className="grid gap-y-3 sm:gap-y-1">
				<div
					className="hidden sm:grid grid-cols-[1fr_4.5rem_9rem_8rem_8rem_2.5rem] gap-x-2 text-soft text-[0.85rem]"
					aria-hidden="true"
				>
					{heads.map((h) => (
						<span key={h}>{h}</span>
					))}
				</div>
				{fields.map((f, i) => (
					<fieldset
						key={f.id}
						className="grid grid-cols-2 sm:grid-cols-[1fr_4.5rem_9rem_8rem_8rem_2.5rem] gap-x-2 gap-y-1 items-start"
						data-stage-row={i}
					>
						<legend className="sr-only">Stage {i + 1}</legend>
						{COLUMNS.map((c, k) => {
							const name = `stages.${i}.${c}` as const;
							const wrong = form.getFieldState(name, form.formState).error?.message;
							return (
								<label key={c} className="block">
									<span className="field-label sm:sr-only">{heads[k]}</span>
									<input
										className="field"
										inputMode={c === 'days' ? 'decimal' : 'text'}
										autoComplete="off"
										maxLength={200}
										placeholder={c === 'begun' ? 'not yet' : undefined}
										aria-invalid={wrong !== undefined}
										{...form.register(name, { validate: () => form.takes(name) })}
									/>
									<Wrong>{wrong}</Wrong>
								</label>
							);
						})}
						<button
							type="button"
							className="act !font-normal !px-2 self-end sm:self-start"
							aria-label={`Take stage ${i + 1} out`}
							disabled={fields.length === 1}
							onClick={() => remove(i)}
						>
							<span className="sm:hidden">take it out</span>
							<span className="hidden sm:inline" aria-hidden="true">
								×
							</span>
						</button>
					</fieldset>
				))}
			</div>
			<div className="flex flex-wrap gap-3 mt-3">
				<button type="submit" className="act act-main" disabled={isSubmitting}>
					Keep the plan
				</button>
				<button type="button" className="act !font-normal" onClick={() => last && add({ ...last, name: '' })}>
					Add a stage
				</button>
				{!form.watch('stages').some((s) => s.name === EASING.name) && (
					<button type="button" className="act !font-normal" onClick={() => add(stageValues(easing, units))}>
						Add easing before harvest
					</button>
				)}
			</div>
			<Wrong>{form.formState.errors.root?.message}</Wrong>
			{overtaken && (
				<p role="alert" className="mt-2" data-overtaken>
					{OVERTAKEN_WORDS}{' '}
					<button type="button" className="underline cursor-pointer min-h-11" onClick={follow}>
						Take the plan as it is now
					</button>
				</p>
			)}
			<p className="text-soft text-[0.85rem] mt-1">{EASING_WORDS}</p>
		</form>
	);
}
const valuesOf = (plan: Body, units: SiteView['units']): SeasonValues => ({
	stages: plan.stages.map((s) => stageValues(s, units)),
});
const easing: PlanShown['stages'][number] = {
	name: EASING.name,
	days: EASING.days,
	ec_us_cm: [...EASING.ecUsCm],
	ph: [...EASING.ph],
	begun: null,
};
