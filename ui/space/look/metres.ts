/** Metres of a unit of length a person may say. */
export const METRES: Readonly<Record<string, number>> = { m: 1, mm: 0.001, cm: 0.01, km: 1000, um: 1e-6, in: 0.0254, ft: 0.3048 };
