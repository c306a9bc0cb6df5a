import { z } from 'zod';
import { ACID_KINDS, BASE_KINDS } from '@/core/chem/acids';
import { EXTRACT_METHODS } from '@/core/rootzone/extract';
import { ION_KEYS, type IonKey } from '@/core/water/ions';
import { DRAIN_VERDICTS } from './drains';
import { bounded, ecUsCm, finite, litres, mgL, notNegative, ph, positive, tempC } from './fields';
import { resource } from './operation';
import { figure } from './probe-calculators';
import { ions } from './water';
import { wire } from './wire';

const ionsAnswer = z.partialRecord(z.enum(ION_KEYS as [IonKey, ...IonKey[]]), z.number());

/** A water that is brought to another pH. */
const treated = {
	ph,
	alkalinity_mg_l_caco3: mgL.max(5000, 'at most 5,000 mg/L'),
	target_ph: ph,
	temp_c: finite.min(0, 'the constants hold from 0 to 60 °C').max(60, 'the constants hold from 0 to 60 °C'),
	volume_l: litres,
	ec_us_cm: ecUsCm.optional().describe('of a feed: its ions act as fewer than they are; left out: a thin water'),
	pco2_uatm: positive.max(1e6, 'at most 1,000,000 µatm').optional().describe('420 unless given'),
};
/** A product by its label. */
const bottle = {
	percent_w_w: finite.describe('from the label; of citric, anhydrous acid'),
	density_g_ml: finite
		.min(0.7, 'a liquid has 0.7 to 2.5 g/mL')
		.max(2.5, 'a liquid has 0.7 to 2.5 g/mL')
		.optional()
		.describe('of a liquid; a powder has none'),
};
const percent = { percent_w_w: 'percentWw' } as const;

export const waterCalculators = resource('Calculators', {
	'POST /calc/blend': {
		storesNothing: true,
		summary: 'What two or more waters make together, or how to reach a target with them',
		body: wire({
			waters: z
				.array(
					wire({
						ec_us_cm: ecUsCm,
						alkalinity_mg_l_caco3: mgL.optional(),
						ions: ions.optional(),
						volume_l: notNegative.max(1e9).optional(),
						ph: ph.optional(),
						temp_c: tempC.optional(),
						cost_per_l: notNegative.max(1e9).optional(),
					}),
				)
				.min(1, 'give at least one water')
				.max(12),
			target: wire({
				ec_us_cm: ecUsCm.optional(),
				alkalinity_mg_l_caco3: mgL.optional(),
				na_mg_l: mgL.optional(),
				cl_mg_l: mgL.optional(),
			}).optional(),
			total_l: litres.optional(),
		}),
		answer: wire({
			ec_us_cm: z.number(),
			alkalinity_mg_l_caco3: z.number().nullable(),
			ions: ionsAnswer,
			ph: z.number().nullable().describe('by carbonate chemistry, where every water’s pH and alkalinity is known'),
			fractions: z.array(z.number()),
			volumes_l: z.array(z.number()),
			cost_per_l: z.number().nullable(),
		}),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/acid': {
		storesNothing: true,
		summary: 'Acid that a water takes to a target pH, what it feeds, and where the pH goes afterwards',
		body: wire({ ...treated, acid: wire({ kind: z.enum(ACID_KINDS), ...bottle }, percent) }),
		answer: wire({
			meq_per_l: z.number(),
			ml_total: figure,
			g_total: figure,
			meq_per_l_aerated: z.number(),
			adds: z.partialRecord(z.enum(['no3_n_mg_l', 'p_mg_l', 'so4_mg_l']), z.number()),
			ph_after_degassing: z.number().describe('with what the acid itself buffers'),
			ph_after_degassing_carbonate: z.number().describe('by the carbonate system alone'),
			ph_next_day_still: z.number().describe('a day later, standing still'),
			ph_next_day_moved: z.number().describe('a day later, with a bubbler or a falling return'),
			cautions: z.array(z.string()),
		}),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/base': {
		storesNothing: true,
		summary: 'Base that a water takes to a higher target pH, what it brings, and where the pH goes afterwards',
		body: wire({ ...treated, base: wire({ kind: z.enum(BASE_KINDS), ...bottle }, percent) }),
		answer: wire({
			meq_per_l: z.number(),
			mmol_per_l: z.number(),
			ml_total: figure,
			g_total: figure,
			alkalinity_mg_l_caco3: z.number().describe('afterwards'),
			adds: z.partialRecord(z.enum(['k_mg_l', 'na_mg_l', 'si_mg_l']), z.number()),
			ph_after_degassing: z.number(),
			cautions: z.array(z.string()),
		}),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/oxygen': {
		storesNothing: true,
		summary: 'Dissolved oxygen that water holds in balance with air, and a reading as a share of it',
		body: wire({
			temp_c: finite.min(0, '0 to 40 °C').max(40, '0 to 40 °C'),
			ec_us_cm: ecUsCm.optional(),
			altitude_m: finite
				.min(-400, '−400 to 4,000 m')
				.max(4000, '−400 to 4,000 m')
				.optional()
				.describe('0 unless given'),
			mg_l: notNegative.optional(),
		}),
		answer: wire({ saturation_mg_l: z.number(), percent: z.number().nullable() }),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/vapour': {
		storesNothing: true,
		summary: 'Vapour-pressure deficit of air by its temperature and relative humidity',
		body: wire({ air_c: tempC, humidity_pct: finite.min(0, '0 to 100 %').max(100, '0 to 100 %') }),
		answer: wire({ deficit_kpa: z.number() }),
	},
	'POST /calc/dilute': {
		storesNothing: true,
		summary: 'Water to add, and to drain where there is no room, to bring a tank to a target EC',
		body: wire({
			volume_l: litres,
			ec_us_cm: ecUsCm,
			target_ec_us_cm: ecUsCm,
			with_ec_us_cm: ecUsCm,
			capacity_l: litres.optional().describe('no limit unless given'),
		}),
		answer: wire({ drain_l: z.number(), add_l: z.number(), ec_us_cm: z.number() }),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/nutrient-dose': {
		storesNothing: true,
		summary: 'Millilitres of each part by a label’s rate, or towards a target EC with the feed’s gain',
		body: wire({
			volume_l: litres,
			rate_ml_per_l: notNegative.optional(),
			strength: notNegative.max(4, 'a fraction of the label’s rate: 1, 0.5, 0.25').optional(),
			base_ec_us_cm: ecUsCm.optional(),
			gain_us_cm_per_ml_l: positive.max(1e6).optional().describe('EC that 1 mL/L of each part adds'),
			target_ec_us_cm: ecUsCm.optional(),
		}),
		answer: wire({ ml_each: z.number(), expected_ec_us_cm: figure }),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/water-report': {
		storesNothing: true,
		summary: 'A laboratory report read critically: balance, calculated EC, hardness, alkalinity, SAR, classes',
		body: wire({ ions, ec_us_cm: ecUsCm.optional(), ph: ph.optional(), temp_c: tempC.optional() }),
		answer: wire(
			{
				cations_meq_l: z.number(),
				anions_meq_l: z.number(),
				balance_pct: z.number(),
				balance_ok: z.boolean(),
				ec_calculated_us_cm: z.number(),
				ionic_strength_mol_l: z.number(),
				hardness_mg_l_caco3: z.number(),
				alkalinity_mg_l_caco3: z.number(),
				sar: z.number().nullable(),
				grades: z.array(
					z.object({ of: z.string(), grade: z.string(), value: z.number(), unit: z.string(), source: z.string() }),
				),
				odd: z.array(z.object({ code: z.string(), message: z.string() })),
			},
			{ ionic_strength_mol_l: 'ionicStrength' },
		),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/extract': {
		storesNothing: true,
		summary: 'What a press, pour-through, extract, paste or sensor says of the solution that the roots stand in',
		body: wire({
			method: z.enum(EXTRACT_METHODS),
			read_us_cm: ecUsCm.describe('as the method reads it'),
			feed_us_cm: ecUsCm.nullable().default(null),
			preset: z.enum(['tight', 'usual', 'loose']).default('usual'),
		}),
		answer: wire({
			root_us_cm: bounded,
			rise_us_cm: bounded.nullable(),
			verdict: z.enum(DRAIN_VERDICTS).nullable().describe('check where its bounds reach from good to act'),
			band: z.enum(['below', 'within', 'above']).describe('what is usual on the scale of the method'),
		}),
	},
	'POST /calc/loop-salt': {
		storesNothing: true,
		summary:
			'Sodium or chloride in a loop: where it settles, when it comes to a limit, what to let out, and which blend spares it',
		body: wire({
			volume_l: litres,
			drunk_l_per_day: notNegative.max(1e9),
			source_mmol_l: notNegative.max(1e4),
			now_mmol_l: notNegative.max(1e4),
			limit_mmol_l: positive.max(1e4),
			taken_mmol_l: notNegative.max(1e4).describe('with the water they drink, where it stands at the limit'),
			bleed_l_per_day: notNegative.max(1e9).default(0),
		}),
		answer: wire({
			settles_mmol_l: figure.describe('not where nothing takes it out'),
			days_to_limit: figure.describe('not where it is never reached'),
			bleed_l_per_day: figure.describe('that holds it at the limit; not where the water is as strong as that'),
			source_without_bleed: z.number(),
			pure_share: z.number(),
			renew_l: figure.describe('at once, to come to half the limit'),
		}),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/drain': {
		storesNothing: true,
		summary: 'Drain against feed: how much ran off, what the plants took, and what to do first',
		body: wire({
			applied_l: litres,
			drained_l: notNegative.max(1e9),
			feed_ec_us_cm: ecUsCm,
			drain_ec_us_cm: ecUsCm,
			feed_ph: ph.optional(),
			drain_ph: ph.optional(),
			preset: z.enum(['tight', 'usual', 'loose']).optional().describe('usual unless given'),
			rise_before_us_cm: finite.optional().describe('drain over feed before: tells a flush from a bad measurement'),
		}),
		answer: wire({
			leaching_fraction: z.number(),
			ec_delta_us_cm: z.number(),
			uptake_ec_us_cm: figure.describe('not where as much ran off as was given'),
			ph_delta: figure,
			verdict: z.enum(DRAIN_VERDICTS),
			actions: z.array(z.string()),
		}),
		problems: ['cannot-be-computed'],
	},
});
