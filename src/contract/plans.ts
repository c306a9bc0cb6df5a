import { z } from 'zod';
import { code, csv, day, done, ecUsCm, growingPh, name } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const inOrder = ([low, high]: readonly [number, number]): boolean => low < high;
const stage = wire({
	name,
	days: z
		.number()
		.int()
		.min(1, 'at least a day')
		.max(1000, 'at most 1,000 days')
		.describe('how long it is meant to last'),
	ec_us_cm: z.tuple([ecUsCm, ecUsCm]).refine(inOrder, 'the lower end comes first'),
	ph: z.tuple([growingPh, growingPh]).refine(inOrder, 'the lower end comes first'),
	begun: day.nullish().describe('the day on which it began; none: it is planned, or was passed over'),
});
const stages = z
	.array(stage)
	.min(1, 'at least one stage')
	.max(20, 'at most 20 stages')
	.refine((list) => {
		const begun = list.flatMap((s) => (s.begun ? [s.begun] : []));
		return begun.every((d, i) => i === 0 || begun[i - 1]! <= d);
	}, 'stages begin one after the other');
const version = z.number().int().min(0).describe('of the plan as it was seen; 0 where there was none');

const plan = wire({
	system: z.string(),
	name: z.string().describe('of the system'),
	version: z.number(),
	stages: z.array(stage),
	spans: z
		.array(
			z.object({
				index: z.number().describe('in stages'),
				from: day,
				until: day.nullable().describe('the day after its last'),
				begun: z.boolean(),
			}),
		)
		.describe('the days that each took or is planned for; what was passed over is left out'),
	current: z.number().nullable().describe('the stage that was begun last'),
	next: wire({ index: z.number(), on: day, in_days: z.number().describe('below 0: it is due since') }).nullable(),
});
export type PlanShown = z.input<typeof plan>;

export const plans = resource('Mix', {
	'GET /plans': {
		summary: 'The stages of each system over its season, with their targets; text/csv by Accept',
		query: z.strictObject({ format: csv.optional() }),
		answer: z.object({ plans: z.array(plan) }),
		alsoAnswers: ['text/csv'],
	},
	'POST /plans': {
		summary:
			'Makes or changes the plan of a system; the targets of the stage that is on become those of its feed or tank',
		body: wire({ system: code, version, stages }),
		answer: plan,
		problems: ['unknown-system', 'changed-meanwhile', 'bad-time'],
	},
	'POST /plans/:system/stage': {
		summary: 'Begins a stage, or goes back to one; its targets become those of the feed or tank',
		body: z.strictObject({
			index: z.number().int().min(0),
			on: day.optional().describe('today unless given'),
			version,
		}),
		answer: plan,
		problems: ['unknown-system', 'no-such-plan', 'no-such-stage', 'changed-meanwhile', 'bad-time'],
	},
	'POST /plans/:system/end': {
		summary: 'Puts a plan away; the targets stay as they are',
		body: z.strictObject({ version }),
		answer: done,
		problems: ['unknown-system', 'no-such-plan', 'changed-meanwhile'],
	},
});
