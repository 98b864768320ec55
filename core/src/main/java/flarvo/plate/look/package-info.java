/** How plates are shown: exposure, a look-up table and gamma. Files are never touched by it. */
package flarvo.plate.look;
