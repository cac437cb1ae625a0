export { TakenAwayScreen as default } from '../../features/all/TakenAwayScreen.tsx';
