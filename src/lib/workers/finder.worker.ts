import { expose } from 'comlink';
import { Finder } from './finder';

expose(new Finder());
