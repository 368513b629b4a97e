import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import '~/web/styles.css';

export const metadata: Metadata = { title: { default: 'Patient Shelf', template: '%s · Patient Shelf' } };

export default async function RootLayout({ children }: { readonly children: ReactNode }): Promise<ReactNode> {
  const theme = (await cookies()).get('shelf-theme')?.value;
  return (
    <html lang="en" data-theme={theme === 'light' || theme === 'dark' ? theme : undefined}>
      <body>{children}</body>
    </html>
  );
}
