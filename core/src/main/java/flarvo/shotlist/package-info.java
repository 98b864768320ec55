/** Lists of shots from editorial: tables and timelines, with frames and handles. */
package flarvo.shotlist;
