import { type ReactNode, useEffect } from 'react';
import { useLocation } from 'react-router';
import { MenuLine, TabBar } from './Menu';

interface FrameProps {
  /** The heading, and the page's title in the browser. */
  title: string;
  /** The machine's plate, where the page is about one. */
  number?: string;
  /** One line below the heading. */
  line?: ReactNode;
  /** Ways and filters beside the heading. */
  tools?: ReactNode;
  className?: string;
  children: ReactNode;
}

interface Props extends FrameProps {
  /** The act of work, at the foot; a page to read has none. */
  go?: ReactNode;
  mainClass?: string;
}

/** What the browser calls the page. */
export function useTitle(...parts: (string | undefined)[]): void {
  const title = [...parts.filter(Boolean), 'Temper'].join(' · ');
  useEffect(() => {
    document.title = title;
  }, [title]);
}

/** The menu and the heading of a page outside a job, around what brings its own main part and act of work. */
export function PageFrame({ title, number, line, tools, className = '', children }: FrameProps) {
  useTitle(number ? `${number} ${title.toLowerCase()}` : title);
  const { pathname, search } = useLocation();
  const at = search.includes('show=due') ? '/machines?show=due' : pathname;
  return (
    <div className={`page ${className}`}>
      <MenuLine />
      <div className="headline">
        {number && (
          <span className="plate">
            <span>{number}</span>
          </span>
        )}
        <div className="heading">
          <h1 tabIndex={-1}>{title}</h1>
          {line && <p>{line}</p>}
        </div>
        {tools && <div className="headtools">{tools}</div>}
      </div>
      {children}
      <TabBar at={at} />
    </div>
  );
}

/** A page outside a job: menu, heading, what it shows, and the act of work where there is one. */
export function Page({ go, mainClass, children, ...frame }: Props) {
  return (
    <PageFrame {...frame}>
      <main id="work" className={mainClass}>
        {children}
      </main>
      {go && <div className="gocorner">{go}</div>}
    </PageFrame>
  );
}

/** While a page's data is on its way, or where it cannot be had: the menu stays. */
export function Waiting({ title = 'Loading …' }: { title?: string }) {
  return (
    <Page title={title}>
      <p className="empty" role="status">
        Loading …
      </p>
    </Page>
  );
}
