export { OutboxScreen as default } from '../../features/said/OutboxScreen.tsx';
