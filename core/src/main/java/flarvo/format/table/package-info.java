/**
 * Tables as comma separated text. A table states neither axes nor unit: the sender's dialect says
 * what its numbers mean, its rotation order and angle unit included. Comment lines at the top, such
 * as {@code # rate: 24000/1001}, may state rate, picture and the number of rows.
 */
package flarvo.format.table;
