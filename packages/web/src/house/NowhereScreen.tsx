import { useLocation } from 'react-router';
import { QuietPage } from '../kit/Waiting.tsx';

/** An address that leads nowhere. */
export default function NowhereScreen(): React.JSX.Element {
  const { pathname } = useLocation();
  return (
    <QuietPage
      page="Nothing here"
      title="There is nothing at this address"
      words={`${pathname} is no page of Dyepot. It may have been mistyped, or what it led to is gone.`}
      way={{ to: '/shoots', words: 'Go to Shoots' }}
    />
  );
}
