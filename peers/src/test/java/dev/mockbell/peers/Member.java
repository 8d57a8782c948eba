package dev.mockbell.peers;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlType;

/** A guest who is a member. */
@XmlType(name = "Member")
@XmlAccessorType(XmlAccessType.FIELD)
public class Member extends Guest {
    public long number;
}
