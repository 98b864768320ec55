/**
 * Features found and followed in the plate alone. Pictures are float brightness from 0 to 255;
 * inside, a pixel's number is its centre, and half a pixel is added where canonical pixels leave.
 */
package flarvo.trace;
