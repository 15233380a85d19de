import type { Layout } from '@/core/brief/layout';
import type { Editing } from '../editing';

/** What parts of the layout's editor do. */
export interface LayoutEditing extends Editing {
  layout: Layout;
  putLayout: (change: Partial<Layout>) => void;
}
