/** Molar mass of potassium chloride, g/mol (standard atomic weights). */
const KCL_G_PER_MOL = 74.5513;
/** A saturated solution at 20 °C holds about 4.6 mol/L; beyond it the rest lies on the bottom. */
export const KCL_SATURATION_MOLAR = 4.6;

/** Grams of potassium chloride for a storage solution made up to a volume. 3 mol/L, 100 mL: 22.37 g. */
export const kclGrams = (molar: number, volumeMl: number): number => (molar * volumeMl * KCL_G_PER_MOL) / 1000;
