export { AllScreen as default } from '../../features/all/AllScreen.tsx';
