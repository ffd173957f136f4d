import { bitewing } from './oral';
import { shippedPattern } from './shippedPattern';

export const fourBitewings = shippedPattern(
  { pattern: '018f0000-0000-7000-8000-000000000401', route: '018f0000-0000-7000-8000-000000000402' },
  'Four bitewings',
  'teeth',
  [
    {
      id: 'bw-right-molars',
      name: 'Right molars',
      teeth: [16, 17, 18, 46, 47, 48],
      at: { x: 0.12, y: 0.58 }
    },
    { id: 'bw-right-premolars', name: 'Right premolars', teeth: [14, 15, 44, 45], at: { x: 0.37, y: 0.42 } },
    { id: 'bw-left-premolars', name: 'Left premolars', teeth: [24, 25, 34, 35], at: { x: 0.63, y: 0.42 } },
    { id: 'bw-left-molars', name: 'Left molars', teeth: [26, 27, 28, 36, 37, 38], at: { x: 0.88, y: 0.58 } }
  ].map(bitewing)
);
