package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlType;

/** One of a party. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlType(
        name = "Guest",
        propOrder = {"name", "age"})
public final class Guest {
    @XmlElement(required = true)
    public String name;

    public int age;
}
