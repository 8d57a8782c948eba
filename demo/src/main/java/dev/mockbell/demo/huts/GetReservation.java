package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlType;

/** Asks for a reservation. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "GetReservation")
@XmlType(
        name = "",
        propOrder = {"code"})
public final class GetReservation {
    @XmlElement(required = true)
    public String code;
}
