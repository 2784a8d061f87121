import { contractTests } from '../src/contract-tests';

contractTests('framework');
