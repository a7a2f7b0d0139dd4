// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/records.h"

namespace jib::library {

std::string_view nameOf(SubmissionState state) {
  switch (state) {
    case SubmissionState::New:
      return "new";
    case SubmissionState::InReview:
      return "in_review";
    case SubmissionState::Returned:
      return "returned";
  }
  return "new";
}

std::string_view titleOf(SubmissionState state) {
  switch (state) {
    case SubmissionState::New:
      return "New";
    case SubmissionState::InReview:
      return "In review";
    case SubmissionState::Returned:
      return "Returned";
  }
  return "New";
}

std::string_view nameOf(ThreadState state) {
  switch (state) {
    case ThreadState::Asked:
      return "asked";
    case ThreadState::Better:
      return "better";
    case ThreadState::Met:
      return "met";
    case ThreadState::NotYet:
      return "not_yet";
    case ThreadState::Dropped:
      return "dropped";
  }
  return "asked";
}

std::string_view titleOf(ThreadState state) {
  switch (state) {
    case ThreadState::Asked:
      return "Asked, not filmed since";
    case ThreadState::Better:
      return "Better, not there yet";
    case ThreadState::Met:
      return "Met";
    case ThreadState::NotYet:
      return "No change";
    case ThreadState::Dropped:
      return "Dropped";
  }
  return "Asked";
}

}  // namespace jib::library
