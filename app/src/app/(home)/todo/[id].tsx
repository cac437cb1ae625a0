export { TodoScreen as default } from '../../../features/todo/TodoScreen.tsx';
