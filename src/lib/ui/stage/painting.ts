import { type Remote, wrap } from 'comlink';
import PainterWorker from '../../workers/painter.worker?worker';
import type { Painter } from '../../workers/painter';

let shared: Remote<Painter> | null = null;

/** The worker that paints all stages of the page; it keeps what it has fetched while pages change. */
export const thePainter = (): Remote<Painter> => (shared ??= wrap<Painter>(new PainterWorker()));
