import { lazyPast } from '../../../features/past/LazyPast.tsx';

export default lazyPast('TotalsScreen');
