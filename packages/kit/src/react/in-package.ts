/** Whether the parts are those of the package; in the drop-in, what only applications and servers need of them goes. */
export const IN_PACKAGE: boolean = true;
