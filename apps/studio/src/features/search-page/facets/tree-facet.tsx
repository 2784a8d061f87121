import type { TreeNode } from '@yucca/contract';
import { FacetBox } from './checklist';

interface TreeFacetProps {
  name: string;
  nodes: readonly TreeNode[];
  chosen: readonly string[];
  onToggle: (path: string) => void;
}

const holdsChosen = (node: TreeNode, chosen: readonly string[]): boolean =>
  chosen.includes(node.path) || node.children.some((child) => holdsChosen(child, chosen));

/** Levels to tick, each with the ones below it folded away until something in them is chosen. */
export function TreeFacet({ name, nodes, chosen, onToggle }: TreeFacetProps) {
  const most = Math.max(1, ...nodes.map((node) => node.count));
  return (
    <ul>
      {nodes.map((node) => {
        const { path, value, count, selected, children } = node;
        const box = (
          <FacetBox
            name={name}
            value={{ value: path, label: value, count, selected }}
            most={most}
            checked={chosen.includes(path)}
            onToggle={onToggle}
          />
        );
        return (
          <li key={path}>
            {box}
            {children.length > 0 && (
              <details open={holdsChosen(node, chosen)} className="ml-6">
                <summary className="min-h-6 text-xs text-soft">
                  Within {value} ({children.length})
                </summary>
                <TreeFacet name={name} nodes={children} chosen={chosen} onToggle={onToggle} />
              </details>
            )}
          </li>
        );
      })}
    </ul>
  );
}
