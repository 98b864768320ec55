/** The command line: words in, core's work, text or JSON out, and an exit code. */
package flarvo.cli;
