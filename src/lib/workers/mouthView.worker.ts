import { expose } from 'comlink';
import { mouthView } from './mouthView';

expose({ mouthView });
