import { lazyDoors } from '../features/doors/LazyDoors.tsx';

export default lazyDoors('ForgottenScreen');
