// All that goes in and out, and the account, is loaded at once, and by nobody else.
export { AccountScreen } from './AccountScreen.tsx';
export { DoorsScreen } from './DoorsScreen.tsx';
export { ForgottenScreen, NewPasswordScreen } from './ForgottenScreens.tsx';
export { TakeInScreen } from './TakeInScreen.tsx';
export { UseWayScreen } from './UseWayScreen.tsx';
export { WayScreen } from './WayScreen.tsx';
