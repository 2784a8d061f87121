import { shared } from '../../jest.shared.mjs';

export default { ...shared, displayName: 'offline' };
