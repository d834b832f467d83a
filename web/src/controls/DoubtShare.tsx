import './doubtShare.css';

/** One source's share of a doubt [%], drawn. */
export const DoubtShare = ({ percent }: { percent: number }) => (
  <span className="doubtshare" aria-hidden="true">
    <i style={{ width: `${Math.max(2, percent)}%` }} />
  </span>
);
