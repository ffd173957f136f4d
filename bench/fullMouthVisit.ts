import { past } from '../demo/past';

/** The demo clinic's longest series alone. */
export const fullMouthVisit = past.filter(({ series }) => series.shots.length > 15);
