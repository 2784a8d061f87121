export default function P() {
  return <p>x</p>;
}
