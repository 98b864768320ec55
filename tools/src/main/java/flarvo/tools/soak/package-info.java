/**
 * Kills the window and the command line at random moments, fills disks and takes folders away, and
 * checks what must be there after.
 */
package flarvo.tools.soak;
