import { redirect } from 'next/navigation';

export default function FirstPage() {
  redirect('/mappings');
}
