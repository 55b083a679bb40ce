import { Bar, BarChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { BIN_ENDS_MS } from '../../../protocol/delays';

/** How many took how long. */
export function DelayChart({ bins }: { bins: readonly number[] }) {
  const data = bins.map((count, i) => ({ name: Number.isFinite(BIN_ENDS_MS[i]!) ? `${BIN_ENDS_MS[i]}` : 'more', count }));
  const largest = bins.indexOf(Math.max(...bins));
  const words = `Most messages took ${largest === 0 ? '' : `${BIN_ENDS_MS[largest - 1]} to `}${Number.isFinite(BIN_ENDS_MS[largest]!) ? `${BIN_ENDS_MS[largest]} ms` : 'or more ms'}`;
  return (
    <div role="img" aria-label={words}>
      <ResponsiveContainer width="100%" height={190}>
        <BarChart data={data} margin={{ top: 8, right: 12, bottom: 18, left: 0 }} accessibilityLayer={false}>
          <XAxis dataKey="name" tick={{ fontSize: 13, fill: 'currentColor' }} stroke="var(--hairline)" interval={0} label={{ value: 'less than so many ms', position: 'insideBottom', offset: -12, fontSize: 13, fill: 'currentColor' }} />
          <YAxis allowDecimals={false} width={52} tick={{ fontSize: 13, fill: 'currentColor' }} stroke="var(--hairline)" />
          <Tooltip cursor={{ fill: 'var(--hairline)', opacity: 0.5 }} contentStyle={{ background: 'var(--raised)', border: '1px solid var(--hairline)' }} formatter={(count) => [count, 'messages']} labelFormatter={(name) => (name === 'more' ? '50 ms and more' : `less than ${name} ms`)} />
          <Bar dataKey="count" fill="var(--accent)" isAnimationActive={false} />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
