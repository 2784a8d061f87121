/**
 * Property tests try the same cases each time, so that a change is told by what it changed and not by luck.
 * `YUCCA_PROPERTY_SEED=new` looks for new ones, with `YUCCA_PROPERTY_RUNS=20` for many; a seed that failed is given
 * back the same way.
 */
import { configureGlobal } from 'fast-check';

const { YUCCA_PROPERTY_SEED: seed = '20261128' } = process.env;

if (seed !== 'new') configureGlobal({ seed: Number(seed) });
