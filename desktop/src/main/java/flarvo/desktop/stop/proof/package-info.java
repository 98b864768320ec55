/** The evidence that what was sent holds. */
package flarvo.desktop.stop.proof;
