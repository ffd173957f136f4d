import { expose } from 'comlink';
import { Corneas } from './corneas';

expose(new Corneas());
