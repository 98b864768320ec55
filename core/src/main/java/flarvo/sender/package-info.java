/**
 * How a sender speaks whom nobody knows: a file is read under every convention, and evidence says
 * which readings fit.
 */
package flarvo.sender;
