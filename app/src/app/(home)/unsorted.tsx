export { UnsortedScreen as default } from '../../features/places/UnsortedScreen.tsx';
