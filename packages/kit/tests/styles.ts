/** What stands in for the style sheet, which the bundler makes a text of. */
const styles = '[data-part="card"] { color: inherit }';
export default styles;
