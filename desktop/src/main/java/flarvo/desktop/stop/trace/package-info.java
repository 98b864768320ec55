/** Trace: features followed in the plates, masks, and the solve that is made of them. */
package flarvo.desktop.stop.trace;
