import { AllScreen } from '../../features/all/AllScreen.tsx';
import { Story } from '../../features/todo/Story.tsx';

export default function All() {
  return <AllScreen story={(id) => <Story id={id} />} />;
}
