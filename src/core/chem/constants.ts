interface Constant {
	value: number;
	unit: string;
	source: string;
}

const CODATA = 'CODATA 2018, exact since the SI of 2019';
const IUPAC = 'standard atomic weights, IUPAC 2021, abridged';
const SM_2320 = 'Standard Methods 2320 B, 2340 B';
const CRC = 'CRC Handbook of Chemistry and Physics, 25 °C; from memory';

/** Every constant of chemistry that is used, once: value, unit, source. Functions of temperature stand with their science. */
export const CONSTANTS = {
	gas: { value: 8.314462618, unit: 'J/(mol·K)', source: CODATA },
	faraday: { value: 96485.33212, unit: 'C/mol', source: CODATA },
	zeroCelsius: { value: 273.15, unit: 'K', source: 'definition' },

	sodium: { value: 22.99, unit: 'g/mol', source: IUPAC },
	potassium: { value: 39.098, unit: 'g/mol', source: IUPAC },
	calcium: { value: 40.078, unit: 'g/mol', source: IUPAC },
	magnesium: { value: 24.305, unit: 'g/mol', source: IUPAC },
	nitrogen: { value: 14.007, unit: 'g/mol', source: IUPAC },
	phosphorus: { value: 30.974, unit: 'g/mol', source: IUPAC },
	silicon: { value: 28.086, unit: 'g/mol', source: IUPAC },
	chlorine: { value: 35.453, unit: 'g/mol', source: 'conventional weight, IUPAC 2013' },
	oxygen: { value: 15.999, unit: 'g/mol', source: IUPAC },
	hydrogen: { value: 1.008, unit: 'g/mol', source: IUPAC },
	sulfur: { value: 32.06, unit: 'g/mol', source: IUPAC },
	boron: { value: 10.81, unit: 'g/mol', source: IUPAC },
	iron: { value: 55.845, unit: 'g/mol', source: IUPAC },
	manganese: { value: 54.938, unit: 'g/mol', source: IUPAC },
	zinc: { value: 65.38, unit: 'g/mol', source: IUPAC },
	copper: { value: 63.546, unit: 'g/mol', source: IUPAC },
	molybdenum: { value: 95.95, unit: 'g/mol', source: IUPAC },
	aluminium: { value: 26.982, unit: 'g/mol', source: IUPAC },
	fluorine: { value: 18.998, unit: 'g/mol', source: IUPAC },
	sulfate: { value: 96.06, unit: 'g/mol', source: `sum of ${IUPAC}` },
	carbonate: { value: 60.008, unit: 'g/mol', source: `sum of ${IUPAC}` },

	calciumCarbonate: { value: 50.04, unit: 'mg/meq', source: SM_2320 },
	bicarbonate: { value: 61.02, unit: 'mg/meq', source: SM_2320 },
	hardnessOfCalcium: { value: 2.497, unit: 'mg CaCO3/mg Ca', source: SM_2320 },
	hardnessOfMagnesium: { value: 4.118, unit: 'mg CaCO3/mg Mg', source: SM_2320 },

	pk1Phosphoric: { value: 2.148, unit: 'pKa', source: CRC },
	pk2Phosphoric: { value: 7.198, unit: 'pKa', source: CRC },
	pk3Phosphoric: { value: 12.35, unit: 'pKa', source: CRC },
	pk2Sulfuric: { value: 1.99, unit: 'pKa', source: CRC },
	pk1Citric: { value: 3.128, unit: 'pKa', source: CRC },
	pk2Citric: { value: 4.761, unit: 'pKa', source: CRC },
	pk3Citric: { value: 6.396, unit: 'pKa', source: CRC },
	pkAcetic: { value: 4.756, unit: 'pKa', source: CRC },

	outdoorAir: { value: 420, unit: 'µatm CO2', source: 'NOAA global mean of 2023, rounded; from memory' },
} as const satisfies Record<string, Constant>;

/** The other way of writing alkalinity and hardness. */
export const MG_L_CACO3_PER_MEQ = CONSTANTS.calciumCarbonate.value;
/** Alkalinity written as bicarbonate over the same as calcium carbonate. */
export const HCO3_PER_CACO3 = CONSTANTS.bicarbonate.value / CONSTANTS.calciumCarbonate.value;
/** Carbon dioxide of outdoor air, µatm. */
export const AIR_UATM = CONSTANTS.outdoorAir.value;
