import { TodayScreen } from '../../features/today/TodayScreen.tsx';
import { LazyStory } from '../../features/todo/LazyStory.tsx';

export default function Today() {
  return <TodayScreen story={(id) => <LazyStory id={id} />} />;
}
