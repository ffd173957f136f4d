/** Makers and models whose words are known to name nobody: those of our own stand-ins. */
const equipment = new Set([
  'Yonder Tray stand-ins',
  'Simulated sensor',
  'Simulated flat panel',
  'Simulated plate scanner',
  'Simulated ultrasound probe',
  'Simulated camera',
  'Simulated topographer'
]);

/** Defined terms of PS3.3 C.7.6.1.1.5.2. */
const lossyMethods = new Set([
  'ISO_10918_1',
  'ISO_14495_1',
  'ISO_15444_1',
  'ISO_15444_15',
  'ISO_13818_2',
  'ISO_14496_10',
  'ISO_23008_2'
]);
/** Defined terms of PS3.3 C.11.1.1.2. */
const rescaleTypes = new Set(['OD', 'HU', 'US', 'MGML', 'Z_EFF', 'ED', 'EDW', 'HU_MOD', 'PCT', '']);
const aNumber = /^\s*[+-]?\d+(\.\d+)?(e[+-]?\d+)?\s*$/i;

/**
 * Text that leaves only where it is one of the values that are known, or made by a rule: whatever else a maker or a
 * program wrote there could be a name.
 */
export const knownValues: Readonly<Record<string, (text: string) => boolean>> = {
  Manufacturer: (text) => equipment.has(text),
  ManufacturerModelName: (text) => equipment.has(text),
  LossyImageCompressionMethod: (text) => lossyMethods.has(text),
  LossyImageCompressionRatio: (text) => aNumber.test(text),
  KVP: (text) => aNumber.test(text),
  RescaleType: (text) => rescaleTypes.has(text),
  PixelSpacingCalibrationDescription: (text) =>
    /^(calibrated spacing from the file|a line over [\d.]+ mm), relative uncertainty [\d.e-]+$/.test(text)
};
