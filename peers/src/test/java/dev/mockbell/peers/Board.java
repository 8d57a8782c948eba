package dev.mockbell.peers;

import jakarta.xml.bind.annotation.XmlEnum;
import jakarta.xml.bind.annotation.XmlType;

/** What is on the table. */
@XmlType(name = "Board")
@XmlEnum
public enum Board {
    NONE,
    HALF,
    FULL
}
