import type { TreeNode } from '@yucca/contract';
import { useTexts } from '../use-texts.ts';
import { FacetBox } from './facet-box.tsx';

/** What `FacetTree` is given. */
export interface FacetTreeProps {
  name: string;
  /** What the list is called for those who hear it. Default: it stands in a group that has a name. */
  label?: string | undefined;
  nodes: readonly TreeNode[];
  chosen: readonly string[];
  /** Takes the path of a value that is ticked, or no longer. */
  onToggle: (path: string) => void;
}

const holdsChosen = (node: TreeNode, chosen: readonly string[]): boolean =>
  chosen.includes(node.path) || node.children.some((child) => holdsChosen(child, chosen));

/** Levels to tick, each with the ones below it folded away until something in them is chosen. */
export function FacetTree({ name, label, nodes, chosen, onToggle }: FacetTreeProps) {
  const { say } = useTexts();
  const most = Math.max(1, ...nodes.map((node) => node.count));
  return (
    <ul aria-label={label}>
      {nodes.map((node) => {
        const { path, value, count, selected, children } = node;
        return (
          <li key={path}>
            <FacetBox
              name={name}
              value={{ value: path, label: value, count, selected }}
              most={most}
              checked={chosen.includes(path)}
              onToggle={onToggle}
            />
            {children.length > 0 && (
              <details open={holdsChosen(node, chosen)} data-part="facet-branch">
                <summary>{say('within', { value, count: children.length })}</summary>
                <FacetTree name={name} label={value} nodes={children} chosen={chosen} onToggle={onToggle} />
              </details>
            )}
          </li>
        );
      })}
    </ul>
  );
}
