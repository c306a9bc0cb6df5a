import { z } from 'zod';
import { ACID_KINDS, BASE_KINDS } from '@/core/chem/acids';
import { dilute } from '@/core/mix/dilute';
import { nutrientDose } from '@/core/mix/nutrient-dose';
import { drainPair } from '@/core/rootzone/drain-pair';
import { acidDemand } from '@/core/water/acid-demand';
import { baseDemand } from '@/core/water/base-demand';
import { type BlendWater, blend } from '@/core/water/blend';
import { gradeWater } from '@/core/water/classes';
import { ION_KEYS, type IonKey, type Ions, readReport } from '@/core/water/ions';
import { Refusal } from '@/service/refusal';
import { finite, notNegative, ph, positive, tempC } from '../contract';
import { operation } from '../operation';

const refuse = (path: string, message: string): never => {
	throw new Refusal(422, 'cannot-be-computed', [{ path, message }]);
};

/** Beyond these no laboratory and no tank goes; huge numbers would only overflow further on. */
const mgL = notNegative.max(1e6, 'at most 1,000,000 mg/L');
const ec = notNegative.max(1e6, 'at most 1,000,000 µS/cm');
const litres = positive.max(1e9, 'at most 1,000,000,000 L');
export const ionsBody = z.strictObject(
	Object.fromEntries(
		[...ION_KEYS, 'b_mg_l', 'fe_mg_l', 'mn_mg_l', 'si_mg_l'].map((k) => [k, mgL.optional()]),
	) as Record<IonKey | 'b_mg_l', z.ZodOptional<typeof mgL>>,
);
const ionsAnswer = z.partialRecord(z.enum(ION_KEYS as [IonKey, ...IonKey[]]), z.number());

const chargedIons = (body: Record<string, number | undefined>): Ions =>
	Object.fromEntries(ION_KEYS.flatMap((k) => (body[k] === undefined ? [] : [[k, body[k]]])));

const water = z.strictObject({
	ec_us_cm: ec,
	alkalinity_mg_l_caco3: mgL.optional(),
	ions: ionsBody.optional(),
	volume_l: notNegative.max(1e9).optional(),
	ph: ph.optional(),
	temp_c: tempC.optional(),
	cost_per_l: notNegative.max(1e9).optional(),
});

/** A water that is brought to another pH. */
const treated = {
	ph,
	alkalinity_mg_l_caco3: mgL.max(5000, 'at most 5,000 mg/L'),
	target_ph: ph,
	temp_c: finite.min(0, 'the constants hold from 0 to 60 °C').max(60, 'the constants hold from 0 to 60 °C'),
	volume_l: litres,
	ec_us_cm: ec.optional().describe('of a feed: its ions act as fewer than they are; left out: a thin water'),
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

export const waterCalculators = [
	operation({
		method: 'POST',
		path: '/calc/blend',
		tag: 'Calculators',
		summary: 'What two or more waters make together, or how to reach a target with them',
		body: z.strictObject({
			waters: z.array(water).min(1, 'give at least one water').max(12),
			target: z
				.strictObject({
					ec_us_cm: ec.optional(),
					alkalinity_mg_l_caco3: mgL.optional(),
					na_mg_l: mgL.optional(),
					cl_mg_l: mgL.optional(),
				})
				.optional(),
			total_l: litres.optional(),
		}),
		response: z.object({
			ec_us_cm: z.number(),
			alkalinity_mg_l_caco3: z.number().nullable(),
			ions: ionsAnswer,
			ph: z.number().nullable().describe('by carbonate chemistry, where every water’s pH and alkalinity is known'),
			fractions: z.array(z.number()),
			volumes_l: z.array(z.number()),
			cost_per_l: z.number().nullable(),
		}),
		run: ({ body }) => {
			const result = blend(
				body.waters.map(
					(w): BlendWater => ({
						ecUsCm: w.ec_us_cm,
						alkalinityMgLCaco3: w.alkalinity_mg_l_caco3,
						ions: w.ions && chargedIons(w.ions),
						volumeL: w.volume_l,
						ph: w.ph,
						tempC: w.temp_c,
						costPerL: w.cost_per_l,
					}),
				),
				{
					ecUsCm: body.target?.ec_us_cm,
					alkalinityMgLCaco3: body.target?.alkalinity_mg_l_caco3,
					naMgL: body.target?.na_mg_l,
					clMgL: body.target?.cl_mg_l,
				},
				body.total_l,
			);
			if (!result.ok) return refuse(result.field, result.message);
			const b = result.blend;
			return {
				ec_us_cm: b.ecUsCm,
				alkalinity_mg_l_caco3: b.alkalinityMgLCaco3,
				ions: b.ions,
				ph: b.ph,
				fractions: b.fractions,
				volumes_l: b.volumesL,
				cost_per_l: b.costPerL,
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/acid',
		tag: 'Calculators',
		summary: 'Acid that a water takes to a target pH, what it feeds, and where the pH goes afterwards',
		body: z.strictObject({
			...treated,
			acid: z.strictObject({ kind: z.enum(ACID_KINDS), ...bottle }),
		}),
		response: z.object({
			meq_per_l: z.number(),
			ml_total: z.number().optional(),
			g_total: z.number().optional(),
			meq_per_l_aerated: z.number(),
			adds: z.partialRecord(z.enum(['no3_n_mg_l', 'p_mg_l', 'so4_mg_l']), z.number()),
			ph_after_degassing: z.number().describe('with what the acid itself buffers'),
			ph_after_degassing_carbonate: z.number().describe('by the carbonate system alone'),
			ph_next_day_still: z.number().describe('a day later, standing still'),
			ph_next_day_moved: z.number().describe('a day later, with a bubbler or a falling return'),
			cautions: z.array(z.string()),
		}),
		run: ({ body }) => {
			const r = acidDemand({
				ph: body.ph,
				alkalinityMgLCaco3: body.alkalinity_mg_l_caco3,
				targetPh: body.target_ph,
				tempC: body.temp_c,
				volumeL: body.volume_l,
				pco2Uatm: body.pco2_uatm,
				ecUsCm: body.ec_us_cm,
				acid: { kind: body.acid.kind, percentWw: body.acid.percent_w_w, densityGMl: body.acid.density_g_ml },
			});
			if (!r.ok) return refuse(r.field, r.message);
			return {
				meq_per_l: r.meqPerL,
				...(r.mlTotal !== null ? { ml_total: r.mlTotal } : {}),
				...(r.gTotal !== null ? { g_total: r.gTotal } : {}),
				meq_per_l_aerated: r.meqPerLAerated,
				adds: r.adds,
				ph_after_degassing: r.phAfterDegassing,
				ph_after_degassing_carbonate: r.phAfterDegassingCarbonate,
				ph_next_day_still: r.phNextDay.still,
				ph_next_day_moved: r.phNextDay.moved,
				cautions: r.cautions,
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/base',
		tag: 'Calculators',
		summary: 'Base that a water takes to a higher target pH, what it brings, and where the pH goes afterwards',
		body: z.strictObject({
			...treated,
			base: z.strictObject({ kind: z.enum(BASE_KINDS), ...bottle }),
		}),
		response: z.object({
			meq_per_l: z.number(),
			mmol_per_l: z.number(),
			ml_total: z.number().optional(),
			g_total: z.number().optional(),
			alkalinity_mg_l_caco3: z.number().describe('afterwards'),
			adds: z.partialRecord(z.enum(['k_mg_l', 'na_mg_l', 'si_mg_l']), z.number()),
			ph_after_degassing: z.number(),
			cautions: z.array(z.string()),
		}),
		run: ({ body }) => {
			const r = baseDemand({
				ph: body.ph,
				alkalinityMgLCaco3: body.alkalinity_mg_l_caco3,
				targetPh: body.target_ph,
				tempC: body.temp_c,
				volumeL: body.volume_l,
				pco2Uatm: body.pco2_uatm,
				ecUsCm: body.ec_us_cm,
				base: { kind: body.base.kind, percentWw: body.base.percent_w_w, densityGMl: body.base.density_g_ml },
			});
			if (!r.ok) return refuse(r.field, r.message);
			return {
				meq_per_l: r.meqPerL,
				mmol_per_l: r.mmolPerL,
				...(r.mlTotal !== null ? { ml_total: r.mlTotal } : {}),
				...(r.gTotal !== null ? { g_total: r.gTotal } : {}),
				alkalinity_mg_l_caco3: r.alkalinityMgLCaco3,
				adds: r.adds,
				ph_after_degassing: r.phAfterDegassing,
				cautions: r.cautions,
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/dilute',
		tag: 'Calculators',
		summary: 'Water to add, and to drain where there is no room, to bring a tank to a target EC',
		body: z.strictObject({
			volume_l: litres,
			ec_us_cm: ec,
			target_ec_us_cm: ec,
			with_ec_us_cm: ec,
			capacity_l: litres.optional().describe('no limit unless given'),
		}),
		response: z.object({ drain_l: z.number(), add_l: z.number(), ec_us_cm: z.number() }),
		run: ({ body }) => {
			const r = dilute({
				volumeL: body.volume_l,
				ecUsCm: body.ec_us_cm,
				targetEcUsCm: body.target_ec_us_cm,
				withEcUsCm: body.with_ec_us_cm,
				capacityL: body.capacity_l,
			});
			return r.ok ? { drain_l: r.drainL, add_l: r.addL, ec_us_cm: r.ecUsCm } : refuse(r.field, r.message);
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/nutrient-dose',
		tag: 'Calculators',
		summary: 'Millilitres of each part by a label’s rate, or towards a target EC with the feed’s gain',
		body: z.strictObject({
			volume_l: litres,
			rate_ml_per_l: notNegative.optional(),
			strength: notNegative.max(4, 'a fraction of the label’s rate: 1, 0.5, 0.25').optional(),
			base_ec_us_cm: ec.optional(),
			gain_us_cm_per_ml_l: positive.max(1e6).optional().describe('EC that 1 mL/L of each part adds'),
			target_ec_us_cm: ec.optional(),
		}),
		response: z.object({ ml_each: z.number(), expected_ec_us_cm: z.number().optional() }),
		run: ({ body }) => {
			const r = nutrientDose({
				volumeL: body.volume_l,
				rateMlPerL: body.rate_ml_per_l,
				strength: body.strength,
				baseEcUsCm: body.base_ec_us_cm,
				gainUsCmPerMlL: body.gain_us_cm_per_ml_l,
				targetEcUsCm: body.target_ec_us_cm,
			});
			return r.ok
				? {
						ml_each: r.mlEach,
						...(r.expectedEcUsCm !== null ? { expected_ec_us_cm: r.expectedEcUsCm } : {}),
					}
				: refuse(r.field, r.message);
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/water-report',
		tag: 'Calculators',
		summary: 'A laboratory report read critically: balance, calculated EC, hardness, alkalinity, SAR, classes',
		body: z.strictObject({
			ions: ionsBody,
			ec_us_cm: ec.optional(),
			ph: ph.optional(),
			temp_c: tempC.optional(),
		}),
		response: z.object({
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
		}),
		run: ({ body }) => {
			const ions = chargedIons(body.ions);
			const r = readReport(ions, body.ec_us_cm ?? null);
			if (!r) return refuse('ions', 'Give at least one ion in mg/L.');
			return {
				cations_meq_l: r.cationsMeqL,
				anions_meq_l: r.anionsMeqL,
				balance_pct: r.balancePct,
				balance_ok: r.balanceOk,
				ec_calculated_us_cm: r.ecCalculatedUsCm,
				ionic_strength_mol_l: r.ionicStrength,
				hardness_mg_l_caco3: r.hardnessMgLCaco3,
				alkalinity_mg_l_caco3: r.alkalinityMgLCaco3,
				sar: r.sar,
				grades: gradeWater({
					hardnessMgLCaco3: ions.ca_mg_l !== undefined && ions.mg_mg_l !== undefined ? r.hardnessMgLCaco3 : null,
					ecUsCm: body.ec_us_cm ?? null,
					naMgL: ions.na_mg_l,
					clMgL: ions.cl_mg_l,
					hco3MgL: ions.hco3_mg_l,
					sar: ions.na_mg_l !== undefined ? r.sar : null,
					boronMgL: body.ions.b_mg_l,
				}),
				odd: r.odd,
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/drain',
		tag: 'Calculators',
		summary: 'Drain against feed: how much ran off, what the plants took, and what to do first',
		body: z.strictObject({
			applied_l: litres,
			drained_l: notNegative.max(1e9),
			feed_ec_us_cm: ec,
			drain_ec_us_cm: ec,
			feed_ph: ph.optional(),
			drain_ph: ph.optional(),
			preset: z.enum(['tight', 'usual', 'loose']).optional().describe('usual unless given'),
		}),
		response: z.object({
			leaching_fraction: z.number(),
			ec_delta_us_cm: z.number(),
			uptake_ec_us_cm: z.number().optional().describe('not where as much ran off as was given'),
			ph_delta: z.number().optional(),
			verdict: z.enum(['good', 'watch', 'act', 'check']),
			actions: z.array(z.string()),
		}),
		run: ({ body }) => {
			const r = drainPair({
				appliedL: body.applied_l,
				drainedL: body.drained_l,
				feedEcUsCm: body.feed_ec_us_cm,
				drainEcUsCm: body.drain_ec_us_cm,
				feedPh: body.feed_ph,
				drainPh: body.drain_ph,
				preset: body.preset,
			});
			if (!r.ok) return refuse(r.field, r.message);
			return {
				leaching_fraction: r.leachingFraction,
				ec_delta_us_cm: r.ecDeltaUsCm,
				...(r.uptakeEcUsCm !== null ? { uptake_ec_us_cm: r.uptakeEcUsCm } : {}),
				...(r.phDelta !== null ? { ph_delta: r.phDelta } : {}),
				verdict: r.verdict,
				actions: r.actions,
			};
		},
	}),
];
