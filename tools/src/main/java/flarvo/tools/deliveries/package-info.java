/** Every writer in every dialect, proven, as a table of the docs. */
package flarvo.tools.deliveries;
