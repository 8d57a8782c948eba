package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlType;

/** Gives bunks back. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "CancelReservation")
@XmlType(
        name = "",
        propOrder = {"code"})
public final class CancelReservation {
    @XmlElement(required = true)
    public String code;
}
