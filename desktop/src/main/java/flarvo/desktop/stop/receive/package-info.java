/** What came in, what its files claim, and the columns of tables. */
package flarvo.desktop.stop.receive;
