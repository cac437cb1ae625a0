import { AllScreen } from '../../features/all/AllScreen.tsx';
import { LazyStory } from '../../features/todo/LazyStory.tsx';

export default function All() {
  return <AllScreen story={(id) => <LazyStory id={id} />} />;
}
