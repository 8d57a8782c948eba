package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlType;

/** There is no such hut. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "UnknownHut")
@XmlType(
        name = "",
        propOrder = {"hutId"})
public final class UnknownHut {
    @XmlElement(required = true)
    public String hutId;
}
