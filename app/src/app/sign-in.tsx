export { SignInScreen as default } from '../features/account/SignInScreen.tsx';
