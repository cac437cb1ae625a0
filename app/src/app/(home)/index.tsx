import { TodayScreen } from '../../features/today/TodayScreen.tsx';
import { Story } from '../../features/todo/Story.tsx';

export default function Today() {
  return <TodayScreen story={(id) => <Story id={id} />} />;
}
