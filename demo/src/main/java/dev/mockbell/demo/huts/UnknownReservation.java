package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlType;

/** There is no such reservation. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "UnknownReservation")
@XmlType(
        name = "",
        propOrder = {"code"})
public final class UnknownReservation {
    @XmlElement(required = true)
    public String code;
}
