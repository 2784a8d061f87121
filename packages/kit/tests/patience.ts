import { configure } from '@testing-library/dom';

// What comes by itself comes late on a machine that does much else; the usual second is no measure of anything here.
configure({ asyncUtilTimeout: 20_000 });
