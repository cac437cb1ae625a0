export { FinishScreen as default } from '../../features/finish/FinishScreen.tsx';
