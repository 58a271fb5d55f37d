import workerpool from 'workerpool';
import { methods } from './pool.js';

workerpool.worker(methods);
