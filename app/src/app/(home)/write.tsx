export { EditorScreen as default } from '../../features/editor/EditorScreen.tsx';
