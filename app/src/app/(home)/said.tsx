import { SaidScreen } from '../../features/said/SaidScreen.tsx';
import { LazyStory } from '../../features/todo/LazyStory.tsx';

export default function Said() {
  return <SaidScreen story={(id) => <LazyStory id={id} />} />;
}
