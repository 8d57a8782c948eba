package dev.mockbell.peers;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlAttribute;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlSeeAlso;
import jakarta.xml.bind.annotation.XmlType;

/** A guest of a hut, with an attribute, what is optional, and a derived type. */
@XmlType(
        name = "Guest",
        propOrder = {"name", "age", "nickname"})
@XmlAccessorType(XmlAccessType.FIELD)
@XmlSeeAlso(Member.class)
public class Guest {
    @XmlElement(required = true)
    public String name;

    public int age;

    @XmlElement(nillable = true)
    public String nickname;

    @XmlAttribute(required = true)
    public boolean vegetarian;
}
