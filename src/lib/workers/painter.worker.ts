import { expose } from 'comlink';
import { Painter } from './painter';

expose(new Painter());
