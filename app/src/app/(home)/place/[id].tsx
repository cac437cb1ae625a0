export { PlaceScreen as default } from '../../../features/places/PlaceScreen.tsx';
