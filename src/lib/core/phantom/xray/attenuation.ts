/**
 * Attenuation per millimetre at the energies of diagnostic x-rays, rounded from the usual tables for an effective
 * energy near 40 keV. Beams are treated as of one energy.
 */
export const perMm = {
  soft: 0.0215,
  fat: 0.018,
  cortical: 0.115,
  spongy: 0.045,
  dentine: 0.112,
  enamel: 0.2,
  cement: 0.2,
  guttaPercha: 0.42,
  amalgam: 1.1,
  steel: 1.4,
  titanium: 0.45,
  lead: 6,
  acrylic: 0.022
} as const;
