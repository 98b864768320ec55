/**
 * Stand-in recipients: what a package that speaks a dialect makes of a file on a plain import, what
 * of it would be wrong there, and what to change. They simulate; the dialect's {@code defaults} say
 * what of.
 */
package flarvo.recipient;
