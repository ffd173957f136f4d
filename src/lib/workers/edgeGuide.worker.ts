import { expose } from 'comlink';
import { EdgeGuide } from './edgeGuide';

expose(new EdgeGuide());
